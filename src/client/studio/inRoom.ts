import { createStore } from 'zustand/vanilla';
import type { Player } from '@/audio';
import { roomFaults, type Room, type RoomFault, type RoomOutput } from '@/core/rooms';
import type { HeardAs } from '@/core/engine';
import { layoutOf } from '@/core/speakers';
import { chosenRoom, loadRooms, useChosenRoom, useRooms } from '../rooms';
import type { Devices } from './devices';
import type { Engine } from './engine';

/** The browser's own output, as rooms name it. */
export const BROWSER_OUTPUT = 'browser';

const FOUR_WAYS = { encoded: 'four in two', through: 'four in two and back', decoded: 'decoded to four' } as const;

/** What the monitor is listened to as, in a few words. */
export function heardName(heardAs: HeardAs): string {
  if (heardAs.as === 'layout') return layoutOf(heardAs.layout).name;
  return heardAs.as === 'lt-rt' ? 'Lt/Rt' : FOUR_WAYS[heardAs.way];
}

interface InRoomState {
  /** Output of the chosen room, as far as it is known; null: not there, or nothing is chosen. */
  output: RoomOutput | null;
  /** Whether the room's loudspeakers sound; otherwise the fold-down for two ears. */
  sounds: boolean;
  /** What the monitor is listened to as; null: as it is mixed. */
  heardAs: HeardAs | null;
  /** Headphones: loudspeakers around a head, in the place of a fold-down. */
  head: boolean;
}

/** The room that the monitor plays in: its output is opened, and the engine is told of it. */
export class InRoom {
  readonly state = createStore<InRoomState>(() => ({ output: null, sounds: false, heardAs: null, head: false }));
  private readonly ends: (() => void)[];

  constructor(
    private readonly engine: Engine,
    private readonly devices: Devices,
  ) {
    const follow = () => this.follow();
    this.ends = [useRooms.subscribe(follow), useChosenRoom.subscribe(follow), devices.state.subscribe(follow)];
    engine.events.on('started', follow);
    if (useRooms.getState().list === null) void loadRooms().catch(() => {});
  }

  private shown: Room | null = null;
  /** The output that was switched on for the room, and the sound it was switched on with. */
  private opened: { device: string; player: Player } | null = null;

  /** The room that is played in: as it is being set, or as it is kept. */
  get room(): Room | null {
    return this.shown ?? chosenRoom()?.room ?? null;
  }

  /** Plays in a room as it is being set; null: as it is kept. */
  preview(room: Room | null): void {
    this.shown = room;
    this.follow();
  }

  /** What is wrong with the room; null where none is chosen, or no sound was started that it could play. */
  faults(): { name: string; faults: RoomFault[] } | null {
    const { room } = this;
    if (!room || !this.engine.player) return null;
    return { name: room.name, faults: roomFaults(room, this.outputOf(room)) };
  }

  /** Switches the room's output on again, where somebody switched it off. */
  reopen(): void {
    this.opened = null;
    this.follow();
  }

  private outputOf(room: Room): RoomOutput | null {
    const { player } = this.engine;
    if (room.output === BROWSER_OUTPUT)
      return player ? { name: 'The browser\u2019s output', channels: player.outputChannels } : null;
    const device = this.devices.find(room.output);
    return device && !device.unavailable ? { name: device.name, channels: device.ports } : null;
  }

  private follow(): void {
    const { room } = this;
    const { player } = this.engine;
    const output = room && this.outputOf(room);
    const device = room && this.devices.find(room.output);
    // Sound runs already: the output that is chosen is switched on with it, once. Who switches it off means it.
    const wanted = player && device && !device.unavailable ? device.id : null;
    if (wanted && (wanted !== this.opened?.device || player !== this.opened.player)) {
      this.opened = { device: wanted, player: player! };
      if (device!.state === 'off') void this.devices.switchOn(wanted);
    }
    if (!device) this.opened = null;
    const sounds = player !== null && output !== null && (device ? device.state === 'on' : output.channels > 2);
    player?.soundOn(sounds && !device ? output.channels : null);
    this.engine.hearIn(sounds ? { room: room!, channels: output.channels } : null);
    const before = this.state.getState();
    if (
      before.sounds !== sounds ||
      before.output?.name !== output?.name ||
      before.output?.channels !== output?.channels
    )
      this.state.setState({ output, sounds });
  }

  /** Listens to the monitor as something else; null: as it is mixed. */
  hearAs(heardAs: HeardAs | null): void {
    this.state.setState({ heardAs });
    this.engine.hearAs(heardAs, this.state.getState().head);
  }

  /** Headphones hear the loudspeakers around a head, or a fold-down. */
  hearAround(head: boolean): void {
    this.state.setState({ head });
    this.engine.hearAs(this.state.getState().heardAs, head);
  }

  close(): void {
    this.ends.forEach((end) => end());
  }
}
