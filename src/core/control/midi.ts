/** A key or fader of a controller that was moved. */
export interface ControlEvent {
  kind: 'key' | 'fader';
  /** 1 to 16. */
  channel: number;
  /** Note or controller number, 0 to 127. */
  number: number;
  /** 0 to 1; a key that is let go: 0. */
  value: number;
}

const NOTE_OFF = 0x8;
const NOTE_ON = 0x9;
const CONTROL_CHANGE = 0xb;

/**
 * Reads one MIDI 1.0 message (MIDI 1.0 Detailed Specification, table 1: note off, note on, control change). A note on
 * with velocity 0 is a note off. null for anything else, and for what is too short.
 */
export function readMidi(bytes: ArrayLike<number>): ControlEvent | null {
  const [status = 0, number, value] = [bytes[0], bytes[1], bytes[2]];
  if (number === undefined || value === undefined || number > 127 || value > 127) return null;
  const channel = (status & 0x0f) + 1;
  const message = status >> 4;
  if (message === NOTE_ON) return { kind: 'key', channel, number, value: value / 127 };
  if (message === NOTE_OFF) return { kind: 'key', channel, number, value: 0 };
  if (message === CONTROL_CHANGE) return { kind: 'fader', channel, number, value: value / 127 };
  return null;
}

/** Bytes of a key pressed or let go, or of a fader moved. */
export function writeMidi({ kind, channel, number, value }: ControlEvent): Uint8Array {
  const status = (kind === 'fader' ? CONTROL_CHANGE : value > 0 ? NOTE_ON : NOTE_OFF) << 4;
  return Uint8Array.of(status | (channel - 1), number, Math.round(value * 127));
}

/** What a key or fader is known by. */
export const controlId = ({ kind, channel, number }: Pick<ControlEvent, 'kind' | 'channel' | 'number'>): string =>
  `${kind}/${channel}/${number}`;

/** Level of a fader at `value`: 0 dB at three quarters, 12 dB above at the top, silence at the bottom (our own law). */
export function faderLevel(value: number): number {
  if (value <= 0) return -100;
  if (value >= 0.75) return ((value - 0.75) / 0.25) * 12;
  return Math.max(-100, -60 * (1 - value / 0.75) ** 1.5);
}
