import { describe, expect, it } from 'vitest';
import { noise } from '../../../tests/support/kernels';
import { alignEnvelopes, alignSounds, delayBetween, envelopeOf } from '.';

const RATE = 48_000;
const silence = (n: number) => new Float32Array(n);
const joined = (...parts: Float32Array[]) => Float32Array.from(parts.flatMap((p) => [...p]));
/** Syllables: bursts of noise at the given times (s), each 120 ms. */
function syllables(at: readonly number[], seed: number, level = 0.4): Float32Array {
  const out = silence(2 * RATE);
  at.forEach((s, i) => out.set(noise(0.12 * RATE, level, seed + i), Math.round(s * RATE)));
  return out;
}

describe('the delay between what was sent and what arrived', () => {
  const burst = noise(2400, 0.1, 7);
  it.each([0, 1, 480, 1234, 30_000])('%d samples is found to the sample', (delay) => {
    const heard = joined(silence(delay), burst, silence(40_000 - delay));
    expect(delayBetween(burst, heard, 38_000)).toMatchObject({ delay, likeness: expect.closeTo(1, 5) });
  });
  it('is found in noise as loud as itself, and through a reversed cable', () => {
    const room = noise(12_000, 0.1, 99);
    const heard = room.map((v, i) => v - (burst[i - 3210] ?? 0));
    expect(delayBetween(burst, heard, 9_000).delay).toBe(3210);
  });
  it('of something else has no likeness', () => {
    expect(delayBetween(burst, noise(20_000, 0.5, 3), 15_000).likeness).toBeLessThan(0.2);
    expect(delayBetween(burst, silence(20_000), 15_000).likeness).toBe(0);
  });
});

describe('a line and its guide', () => {
  const guide = syllables([0.3, 0.55, 0.9, 1.4], 1);
  it.each([-0.24, -0.05, 0, 0.1, 0.3])('spoken %d s off is brought onto it, within an envelope step', (off) => {
    const line = syllables(
      [0.3, 0.55, 0.9, 1.4].map((s) => s + off),
      50,
      0.15,
    );
    const { shift, likeness } = alignEnvelopes(guide, line, RATE, 0.6 * RATE);
    expect(Math.abs(shift + off * RATE)).toBeLessThanOrEqual(0.004 * RATE);
    expect(likeness).toBeGreaterThan(0.9);
  });
  it('spoken a little differently lies where most of it fits', () => {
    const line = syllables([0.4, 0.66, 1.0, 1.52], 80);
    expect(alignEnvelopes(guide, line, RATE, 0.6 * RATE).shift / RATE).toBeCloseTo(-0.1, 1);
  });
  it('is never moved farther than told', () => {
    const line = syllables([1.2, 1.45, 1.8], 50);
    expect(Math.abs(alignEnvelopes(guide, line, RATE, 0.2 * RATE).shift)).toBeLessThanOrEqual(0.2 * RATE);
  });
});

describe('an envelope', () => {
  it('is the mean level of each 2 ms, not below its floor', () => {
    const env = envelopeOf(joined(new Float32Array(960).fill(0.5), silence(960)), RATE);
    expect(env).toHaveLength(20);
    expect(env[0]).toBeCloseTo(20 * Math.log10(0.5), 6);
    expect(env[19]).toBe(-70);
  });
});

describe('a line on its guide', () => {
  const phrase = syllables([0.3, 0.55, 0.9, 1.3, 1.6], 5);
  it.each([0, 1, 137, 6576, -6576, 12_001])('a copy that lies %d samples early is found to the sample', (by) => {
    const moved = Float32Array.from(phrase, (_, i) => 0.3 * (phrase[i + by] ?? 0));
    const noisy = noise(moved.length, 0.01, 77).map((v, i) => v + moved[i]!);
    expect(alignSounds(phrase, noisy, RATE, 0.6 * RATE)).toMatchObject({ shift: by, likeness: expect.closeTo(1, 1) });
  });
  it('another performance of it lies where its syllables do', () => {
    const other = syllables([0.2, 0.45, 0.8, 1.2, 1.5], 900);
    const found = alignSounds(phrase, other, RATE, 0.6 * RATE);
    expect(found).toEqual(alignEnvelopes(phrase, other, RATE, 0.6 * RATE));
    expect(found.shift / RATE).toBeCloseTo(0.1, 2);
  });
  it('long lines are compared as a whole: a first word that is alike does not decide', () => {
    const long = (at: readonly number[]) => {
      const out = silence(8 * RATE);
      at.forEach((s, i) => out.set(noise(0.12 * RATE, 0.4, 40 + i), Math.round(s * RATE)));
      return out;
    };
    const guide = long([0.5, 2, 3.1, 4.4, 5.2, 6.6, 7.1]);
    const line = long([0.5, 1.8, 2.9, 4.2, 5, 6.4, 6.9]);
    expect(alignSounds(guide, line, RATE, 0.6 * RATE).shift / RATE).toBeCloseTo(0.2, 3);
  });
});
