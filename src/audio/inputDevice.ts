import type { LineSheet } from '@/core/session';
import type { NetworkStatus, ToConsole, ToRoom } from '@/standins';

/** What the session and the interface know of an input device, real or simulated. */
export interface DeviceFacts {
  id: string;
  name: string;
  kind: 'stand-in' | 'browser';
  /** Names of its lines as far as the device tells. */
  lines: string[];
  /** How each line is set when the device tells; otherwise empty. */
  sheets: LineSheet[];
  /** Gain, pad, phantom power and polarity can be set from here. */
  settable: boolean;
  /** Comes over a network, with a clock of its own if it does not follow. */
  networked: boolean;
  /** Output ports that a room can play through; 0: none. */
  ports: number;
  /** The one that the system takes by itself. */
  systemDefault: boolean;
  /** Why it cannot be used; null when it can. */
  unavailable: string | null;
}

/** A device that is switched on: its sound and what it really gives. */
export interface OpenDevice {
  node: AudioNode;
  channels: number;
  /** Rate the device really runs at, when it tells. */
  sampleRate: number | null;
  /** Where a simulated cable takes in what this computer sounds. */
  hears?: AudioNode;
  /** Ports that loudspeakers hang on, so many channels wide, where it has some. */
  ports?: AudioNode;
  /** Sets the room that a stand-in simulates. */
  tellRoom?(message: ToRoom): void;
  /** Sets a line of a device that can be set. */
  set?(channel: number, sheet: LineSheet): void;
  /** Sets a simulated console and its network. */
  tellConsole?(message: ToConsole): void;
  /** Takes a simulated device away, as pulling its plug does. */
  unplug?(): void;
  close(): void;
}

export interface DeviceEvents {
  /** Called once when the device goes away by itself. */
  gone(): void;
  /** How the network of a networked device stands. */
  network(status: NetworkStatus): void;
}

/** Real devices and stand-ins alike. */
export interface InputDevice {
  facts: DeviceFacts;
  open(context: AudioContext, module: WebAssembly.Module, events: DeviceEvents): Promise<OpenDevice>;
}
