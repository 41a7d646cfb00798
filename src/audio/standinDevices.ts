import type { LineSheet } from '@/core/session';
import { sourceLines, STANDINS, type NetworkStatus, type StandinDevice, type ToConsole, type ToRoom } from '@/standins';
import { ASSETS } from './generated/assets';
import type { DeviceEvents, InputDevice, OpenDevice } from './inputDevice';

async function soundOf(context: AudioContext, file: string | null): Promise<Float32Array | null> {
  if (!file) return null;
  const response = await fetch(`/standins/${file}`);
  if (!response.ok) throw new Error(`The sound of the stand-in (${file}) is missing; run the set-up again.`);
  const decoded = await context.decodeAudioData(await response.arrayBuffer());
  return decoded.getChannelData(0).slice();
}

/** Taken out of the graph alone it would go on, and go on telling how it is. */
function end(node: AudioWorkletNode): void {
  node.port.onmessage = null;
  node.port.postMessage('end');
  node.disconnect();
}

/** Frames that a browser adds where a delay closes a circle: one block. */
const CIRCLE = 128;

/** A cable from the output back to the input: late by its samples, and by nothing else. */
function openLoop(device: StandinDevice, context: AudioContext, events: DeviceEvents): OpenDevice {
  const seconds = (device.loop! - CIRCLE) / context.sampleRate;
  const node = new DelayNode(context, {
    maxDelayTime: seconds + 0.01,
    delayTime: seconds,
    channelCount: device.lines.length,
    channelCountMode: 'explicit',
  });
  return {
    node,
    hears: node,
    channels: device.lines.length,
    sampleRate: context.sampleRate,
    unplug: () => {
      node.disconnect();
      events.gone();
    },
    close: () => node.disconnect(),
  };
}

/** A room: what the ports are given goes into it, one block late since that closes a circle. */
async function openRoom(device: StandinDevice, context: AudioContext, events: DeviceEvents): Promise<OpenDevice> {
  await context.audioWorklet.addModule(ASSETS.room);
  const channels = device.ports!;
  const wide = { channelCount: channels, channelCountMode: 'explicit', channelInterpretation: 'discrete' } as const;
  const ports = new DelayNode(context, { maxDelayTime: 0.1, delayTime: CIRCLE / context.sampleRate, ...wide });
  const node = new AudioWorkletNode(context, 'wide-room-simulated-room', {
    ...{ numberOfInputs: 1, numberOfOutputs: 1, outputChannelCount: [device.lines.length] },
    ...wide,
  });
  ports.connect(node);
  return {
    ...{ node, ports, channels: device.lines.length, sampleRate: context.sampleRate },
    tellRoom: (message: ToRoom) => node.port.postMessage(message),
    unplug: () => {
      node.disconnect();
      events.gone();
    },
    close: () => {
      ports.disconnect();
      end(node);
    },
  };
}

/** How simulated consoles were set, by device and by what was set. */
const settings: Record<string, Map<string, ToConsole>> = {};

const settingOf = (message: ToConsole): string =>
  'link' in message ? `link ${message.link}` : 'fader' in message ? `fader ${message.fader}` : Object.keys(message)[0]!;

async function open(
  device: StandinDevice,
  context: AudioContext,
  module: WebAssembly.Module,
  events: DeviceEvents,
): Promise<OpenDevice> {
  const { networked = false } = device;
  await context.audioWorklet.addModule(networked ? ASSETS.console : ASSETS.standin);
  const channels = device.lines.length;
  const node = new AudioWorkletNode(context, networked ? 'wide-room-console' : 'wide-room-standin', {
    numberOfInputs: 0,
    numberOfOutputs: 1,
    outputChannelCount: [channels],
    processorOptions: { module },
  });
  const sounding = networked ? sourceLines(device.lines) : device.lines;
  const lines = await Promise.all(sounding.map(async (l) => ({ ...l, samples: await soundOf(context, l.sound) })));
  node.port.postMessage({ lines, channels, ppm: device.ppm ?? 0 });
  // What was set at it stays set while nobody listens.
  const set = (settings[device.id] ??= new Map());
  for (const message of set.values()) node.port.postMessage(message);
  if (networked) node.port.onmessage = ({ data }: MessageEvent<NetworkStatus>) => events.network(data);
  return {
    node,
    channels,
    sampleRate: context.sampleRate,
    ...(device.settable
      ? { set: (channel: number, sheet: LineSheet) => node.port.postMessage({ channel, sheet }) }
      : {}),
    ...(networked
      ? {
          tellConsole: (message: ToConsole) => {
            set.set(settingOf(message), message);
            node.port.postMessage(message);
          },
        }
      : {}),
    unplug: () => {
      node.disconnect();
      events.gone();
    },
    close: () => end(node),
  };
}

export const standinDevices = (): InputDevice[] =>
  STANDINS.map((s) => ({
    facts: {
      id: s.id,
      name: s.name,
      kind: 'stand-in',
      lines: s.lines.map((l) => l.name),
      sheets: s.lines.map((l) => l.sheet),
      settable: s.settable,
      networked: s.networked ?? false,
      ports: s.ports ?? 0,
      systemDefault: false,
      unavailable: null,
    },
    open: (context, module, events) =>
      s.ports !== undefined
        ? openRoom(s, context, events)
        : s.loop === undefined
          ? open(s, context, module, events)
          : Promise.resolve(openLoop(s, context, events)),
  }));
