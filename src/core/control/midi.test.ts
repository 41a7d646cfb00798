// Bytes as the MIDI 1.0 Detailed Specification (table 1, channel voice messages) gives them.
import { describe, expect, it } from 'vitest';
import { controlId, faderLevel, readMidi, writeMidi } from '.';

describe('messages of a controller', () => {
  it.each([
    [[0x90, 60, 127], { kind: 'key', channel: 1, number: 60, value: 1 }],
    [[0x9f, 0, 1], { kind: 'key', channel: 16, number: 0, value: 1 / 127 }],
    [[0x80, 60, 64], { kind: 'key', channel: 1, number: 60, value: 0 }],
    [[0x90, 60, 0], { kind: 'key', channel: 1, number: 60, value: 0 }],
    [[0xb2, 7, 127], { kind: 'fader', channel: 3, number: 7, value: 1 }],
  ])('%j is read', (bytes, event) => {
    expect(readMidi(bytes)).toEqual(event);
  });
  it.each([[[]], [[0x90]], [[0x90, 60]], [[0xf8]], [[0xc0, 5, 0]], [[0x90, 200, 1]], [[0xf0, 1, 2]]])(
    '%j is passed over',
    (bytes) => expect(readMidi(bytes)).toBeNull(),
  );
  it('what is written is read again', () => {
    for (const kind of ['key', 'fader'] as const)
      for (const value of [0, 1, 64 / 127]) {
        const event = { kind, channel: 5, number: 33, value };
        expect(readMidi(writeMidi(event))).toEqual(event);
      }
  });
  it('keys and faders of one number are told apart', () => {
    const at = { channel: 1, number: 7 };
    expect(controlId({ kind: 'key', ...at })).not.toBe(controlId({ kind: 'fader', ...at }));
  });
});

describe('the fader', () => {
  it('rises all the way, with 0 dB at three quarters', () => {
    const levels = Array.from({ length: 101 }, (_, i) => faderLevel(i / 100));
    for (let i = 1; i < levels.length; i++) expect(levels[i]!).toBeGreaterThan(levels[i - 1]!);
    expect([levels[0], levels[75], levels[100]]).toEqual([-100, 0, 12]);
  });
});
