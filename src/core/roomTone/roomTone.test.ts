import { describe, expect, it } from 'vitest';
import { noise, sine } from '../../../tests/support/kernels';
import { JOINT_SECONDS, loopCut, quietPlaces } from '.';

const RATE = 48000;
const rms = (x: Float32Array, from: number, n: number) =>
  Math.sqrt(x.subarray(from, from + n).reduce((s, v) => s + v * v, 0) / n);

describe('a quiet place', () => {
  // Noise that is loud but for four seconds, with one breath in the second half of them.
  const room = noise(10 * RATE, 0.1).map((x, i) => {
    const t = i / RATE;
    if (t > 6.7 && t < 6.75) return x;
    return t > 4 && t < 8 ? x * 0.01 : x;
  });
  it('lies where the room is quiet, and beside the breath', () => {
    const [best] = quietPlaces([room], RATE, 1.5 * RATE);
    expect(best!.start / RATE).toBeGreaterThanOrEqual(4);
    expect(best!.start / RATE).toBeLessThanOrEqual(6.7 - 1.5);
    expect(best!.level).toBeCloseTo(20 * Math.log10(rms(room, best!.start, 1.5 * RATE)), 1);
  });
  it('of the asked length is not found in a recording that is shorter', () => {
    expect(quietPlaces([room], RATE, 11 * RATE)).toEqual([]);
    expect(quietPlaces([], RATE, RATE)).toEqual([]);
  });
  it('several do not overlap, and leave room for the joint', () => {
    const places = quietPlaces([room, room], RATE, RATE, 0.06 * RATE);
    expect(places).toHaveLength(3);
    for (const a of places) {
      expect(a.start).toBeGreaterThanOrEqual(0.06 * RATE);
      for (const b of places) if (a !== b) expect(Math.abs(a.start - b.start)).toBeGreaterThanOrEqual(RATE);
    }
  });
});

describe('a loop that is cut', () => {
  it.each([1, 1.5, 3, 2.3456])('of %f s is as long to the sample', (seconds) => {
    const n = Math.round(seconds * RATE);
    expect(loopCut([noise(5 * RATE, 0.1)], RATE, 48000, n)[0]).toHaveLength(n);
  });
  it('goes on at its seam as the recording did', () => {
    const x = noise(3 * RATE, 0.1);
    const [y] = loopCut([x], RATE, 50_000, RATE);
    expect(y![0]).toBe(x[50_000]);
    expect(y!.at(-1)).toBeCloseTo(x[49_999]!, 6);
    expect(y!.subarray(0, RATE / 2)).toEqual(x.subarray(50_000, 50_000 + RATE / 2));
  });
  it('keeps its level within 0.5 dB in the joint, since the powers add to one', () => {
    const x = noise(4 * RATE, 0.1);
    const joint = Math.round(JOINT_SECONDS * RATE);
    const [y] = loopCut([x], RATE, RATE, 2 * RATE);
    expect(20 * Math.log10(rms(y!, 2 * RATE - joint, joint) / rms(y!, 0, RATE))).toBeLessThan(0.5);
    expect(20 * Math.log10(rms(y!, 2 * RATE - joint, joint) / rms(y!, 0, RATE))).toBeGreaterThan(-0.5);
  });
  it('has no step at the seam even for a tone', () => {
    const x = sine(3 * RATE, RATE, 440, 0.5);
    const [y] = loopCut([x], RATE, 20_000, 30_011);
    const step = Math.abs(y![0]! - y!.at(-1)!);
    expect(step).toBeLessThan((2 * Math.PI * 440 * 0.5) / RATE + 1e-3);
  });
  it('that does not fit is refused with the figures', () => {
    expect(() => loopCut([noise(RATE, 0.1)], RATE, 100, 1000)).toThrow(/needs 500 before it, in a recording of 48000/);
    expect(() => loopCut([noise(RATE, 0.1)], RATE, 40_000, 10_000)).toThrow(RangeError);
  });
});
