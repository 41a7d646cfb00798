import { describe, expect, it } from 'vitest';
import { noise } from '../../../tests/support/kernels';
import { gainAfter } from '@/core/session';
import { LinesListener, ONE_VOICE, SameVoiceListener } from '.';

const RATE = 48_000;
const SECONDS = 2;

/** Noise in the band and rhythm of speech. */
function voice(seed: number): Float32Array {
  const out = noise(SECONDS * RATE, 0.5, seed);
  let low = 0;
  return out.map((v, i) => {
    low += 0.2 * (v - low);
    return low * (0.4 + 0.6 * Math.abs(Math.sin((i / RATE) * 9 + seed)));
  });
}
const late = (x: Float32Array, by: number, gain = 1): Float32Array =>
  Float32Array.from(x, (_, i) => gain * (x[i - by] ?? 0));
const mixed = (...all: Float32Array[]): Float32Array => all[0]!.map((_, i) => all.reduce((s, x) => s + x[i]!, 0));

function heard(...channels: Float32Array[]) {
  const listener = new SameVoiceListener(RATE, channels.length);
  for (let at = 0; at < channels[0]!.length; at += 480) listener.run(channels.map((c) => c.subarray(at, at + 480)));
  return listener.look(1000);
}

const [pilot, lad] = [voice(1), voice(2)];

describe('lines that hear one voice', () => {
  // 1 m is 2.9 ms at 343 m/s (dry air at 20 degrees, handbook value): 140 samples.
  it.each([0, 1, 140, 997, 1_640, -333])('are found, %d samples apart, to the sample', (by) => {
    const a = by < 0 ? late(pilot, -by) : pilot;
    const b = by < 0 ? pilot : late(pilot, by, 0.3);
    expect(heard(a, b)).toEqual([{ a: 0, b: 1, delay: by, correlation: expect.closeTo(1, 1) as number }]);
  });
  it('with swapped poles are told so, wherever they stand', () => {
    expect(heard(pilot, lad, late(pilot, 250, -0.5))).toEqual([
      { a: 0, b: 2, delay: 250, correlation: expect.closeTo(-1, 1) as number },
    ]);
  });
  it('in a room, with another voice and noise on both, are still found', () => {
    const room = (x: Float32Array, by: number) => mixed(late(x, by), late(x, by + 311, 0.4), late(x, by + 800, 0.25));
    const [found] = heard(
      mixed(room(pilot, 40), noise(pilot.length, 0.01, 7)),
      mixed(
        room(pilot, 240).map((v) => 0.5 * v),
        lad.map((v) => 0.15 * v),
      ),
    );
    expect(found).toMatchObject({ a: 0, b: 1, delay: 200 });
    expect(found!.correlation).toBeGreaterThan(ONE_VOICE);
  });
  it('of different voices, or of silence, are none', () => {
    expect(heard(pilot, lad)).toEqual([]);
    expect(heard(pilot, new Float32Array(pilot.length))).toEqual([]);
    expect(heard(pilot, late(pilot, 100, 1e-4))).toEqual([]);
  });
  it('among many lines are found in turn', () => {
    const lines = Array.from({ length: 12 }, (_, i) => (i === 4 || i === 11 ? late(pilot, i * 10) : voice(i + 20)));
    const listener = new SameVoiceListener(RATE, lines.length);
    listener.run(lines);
    let found = listener.look(20);
    for (let i = 0; i < 4; i++) found = listener.look(20);
    expect(found).toEqual([{ a: 4, b: 11, delay: 70, correlation: expect.closeTo(1, 1) as number }]);
  });
});

it('all of it together: levels, voices and pairs of one device', () => {
  const listener = new LinesListener(RATE, 3, [{ id: 't', sides: [0, 1] }]);
  listener.run([pilot, late(pilot, 30, -1), lad]);
  const { lines, voices, swapped } = listener.heard();
  expect(lines.map((l) => l.silent)).toEqual([false, false, false]);
  expect(voices).toMatchObject([{ a: 0, b: 1, delay: 30 }]);
  expect(swapped).toEqual([]);
});

describe('a gain that is changed', () => {
  it.each([
    [{ gain: 30, pad: 0 }, -12, { gain: 18, misses: 0 }],
    [{ gain: -10, pad: 0 }, -25, { gain: -15, pad: -20, misses: 0 }],
    [{ gain: -10, pad: -20 }, -25, { gain: -20, misses: -15 }],
    [{ gain: 70, pad: 0 }, 20, { gain: 80, misses: 10 }],
  ])('%o by %d dB', (sheet, by, wanted) => expect(gainAfter(sheet, by)).toEqual(wanted));
});
