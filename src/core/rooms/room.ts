import { labelsIn, layoutOf, type ChannelOrder, type LayoutId } from '@/core/speakers';

/** A loudspeaker of a room, as it stands and as it is driven. */
export interface RoomSpeaker {
  /** As the layout calls it. */
  label: string;
  /** Where it really stands, degrees; positive to the left. */
  azimuth: number;
  elevation: number;
  /** Metres from the listening place. */
  distance: number;
  /** Channel of the output, from 1; null: none yet. */
  port: number | null;
  /** dB. */
  trim: number;
  /** ms by which it waits, so that it sounds with the farthest one. */
  delay: number;
  /** Driven with the opposite sign. */
  inverted: boolean;
  muted: boolean;
}

/** What a calibration found, per speaker. */
export interface Reading {
  label: string;
  /** dB SPL before and after; null where it was not read. */
  before: number | null;
  after: number | null;
  /** What was wanted of it, dB SPL. */
  wanted: number;
}

export interface Calibration {
  /** ISO time. */
  at: string;
  /** dB SPL of one speaker of the front for noise of `noise` dBFS. */
  level: number;
  noise: number;
  /** How the meter was set. */
  weighting: 'A' | 'C';
  readings: Reading[];
  /** What was found wrong, in sentences. */
  found: string[];
}

/**
 * A place with loudspeakers. It belongs to no session: a session says which layout it is mixed in, a room in which
 * layout it plays.
 */
export interface Room {
  name: string;
  /** Output device: 'browser' is what the browser sounds on, else the id of a device that is chosen as such. */
  output: string;
  layout: LayoutId;
  /** In the order of the layout. */
  speakers: RoomSpeaker[];
  calibration: Calibration | null;
  /** Microphones that stand as its loudspeakers do; null: none. */
  inputs: InputGroup | null;
}

/** Lines of a device that belong together as the channels of a layout. */
export interface InputGroup {
  /** Id of an input device. */
  device: string;
  /** For each speaker of the room's layout, its line, from 1; null: none. */
  lines: (number | null)[];
}

/** Limits of what can be typed. */
export const ROOM_LIMITS = {
  distance: { min: 0.3, max: 30, step: 0.05, unit: 'm' },
  trim: { min: -30, max: 12, step: 0.1, unit: 'dB' },
  delay: { min: 0, max: 100, step: 0.01, unit: 'ms' },
  azimuth: { min: -180, max: 180, step: 1, unit: '°' },
  elevation: { min: -90, max: 90, step: 1, unit: '°' },
  port: { min: 1, max: 64, step: 1, unit: '' },
  line: { min: 1, max: 128, step: 1, unit: '' },
} as const;

const DISTANCE = 2;

/** A room as its layout says it should be, nothing plugged in yet. */
export function newRoom(name: string, output: string, layout: LayoutId): Room {
  const speakers = layoutOf(layout).speakers.map(({ label, azimuth, elevation }): RoomSpeaker => ({
    ...{ label, azimuth, elevation, distance: DISTANCE, port: null },
    ...{ trim: 0, delay: 0, inverted: false, muted: false },
  }));
  return { name, output, layout, speakers, calibration: null, inputs: null };
}

/** The room in another layout: what has the same label keeps its port and values. */
export function withLayout(room: Room, layout: LayoutId): Room {
  const known = new Map(room.speakers.map((s) => [s.label, s]));
  const fresh = newRoom(room.name, room.output, layout);
  const line = (label: string) => room.inputs?.lines[room.speakers.findIndex((s) => s.label === label)] ?? null;
  return {
    ...fresh,
    speakers: fresh.speakers.map((s) => known.get(s.label) ?? s),
    inputs: room.inputs && { ...room.inputs, lines: fresh.speakers.map((s) => line(s.label)) },
  };
}

/** Numbers from `first` on, one for each speaker, as they stand in an order of channels. */
function numbered(room: Room, first: number, order: ChannelOrder): number[] {
  const labels = labelsIn(layoutOf(room.layout), order);
  return room.speakers.map((s) => first + labels.indexOf(s.label));
}

/** Every speaker on a port of its own, one after the other in an order of channels, from `first` on. */
export function portsFrom(room: Room, first: number, order: ChannelOrder = 'wav'): Room {
  const ports = numbered(room, first, order);
  return { ...room, speakers: room.speakers.map((s, i) => ({ ...s, port: ports[i]! })) };
}

/** Microphones on lines of a device, one after the other in an order of channels, from `first` on. */
export const inputsFrom = (room: Room, device: string, first: number, order: ChannelOrder = 'wav'): Room => ({
  ...room,
  inputs: { device, lines: numbered(room, first, order) },
});
