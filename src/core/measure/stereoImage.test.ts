import { describe, expect, it } from 'vitest';
import { noise } from '../../../tests/support/kernels';
import { ImageListener, imageLikeness } from '.';

const RATE = 48_000;

/** Five seconds of a performer who walks about, as a pair of microphones hears it `late` samples later. */
function pair(late: number, swapped = false, walks = 1): ImageListener {
  const sound = noise(5 * RATE, 0.3, 4);
  const sides = [1, -1].map((side) =>
    Float32Array.from(sound, (_, i) => {
      const at = i - late;
      const place = walks * Math.sin((2 * Math.PI * Math.max(0, at)) / RATE / 1.7);
      return at < 0 ? 0 : sound[at]! * (1 + 0.6 * side * place);
    }),
  );
  const heard = new ImageListener(RATE);
  const [left, right] = swapped ? [sides[1]!, sides[0]!] : [sides[0]!, sides[1]!];
  for (let at = 0; at < left.length; at += 4_000)
    heard.run(left.subarray(at, at + 4_000), right.subarray(at, at + 4_000));
  return heard;
}

describe('two pairs of microphones', () => {
  it('that agree, wherever they stand', () => {
    expect(imageLikeness(pair(0), pair(0))).toBeCloseTo(1, 6);
    // Seven metres apart: 20 ms.
    expect(imageLikeness(pair(0), pair(960))).toBeGreaterThan(0.9);
  });
  it('of which one has left and right swapped', () => {
    expect(imageLikeness(pair(0), pair(960, true))).toBeLessThan(-0.9);
    expect(imageLikeness(pair(0, true), pair(0, true))).toBeCloseTo(1, 6);
  });
  it('tell nothing of a performer who stands still, nor of silence, nor at once', () => {
    expect(imageLikeness(pair(0, false, 0), pair(960, true, 0))).toBe(0);
    const silent = new ImageListener(RATE);
    silent.run(new Float32Array(5 * RATE), new Float32Array(5 * RATE));
    expect(silent.balance.every(Number.isNaN)).toBe(true);
    expect(imageLikeness(pair(0), silent)).toBe(0);
    expect(imageLikeness(pair(0), new ImageListener(RATE))).toBe(0);
  });
});
