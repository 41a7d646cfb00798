import { describe, expect, it } from 'vitest';
import { onsets } from '.';

const RATE = 48_000;
const BIN = 256;
/** Peaks of bursts at -12 dBFS between `from` and `to` seconds over a floor at -70. */
function peaks(seconds: number, bursts: readonly (readonly [number, number])[], floor = 10): Int16Array {
  const bins = Math.ceil((seconds * RATE) / BIN);
  const out = new Int16Array(bins * 2);
  for (let b = 0; b < bins; b++) {
    const at = (b * BIN) / RATE;
    const high = bursts.some(([from, to]) => at >= from && at < to) ? 8_231 : floor;
    out[2 * b] = -high;
    out[2 * b + 1] = high;
  }
  return out;
}
const seconds = (p: Int16Array) => onsets(p, BIN, RATE).map((f) => f / RATE);

describe('beginnings of phrases', () => {
  it('are where sound comes after a pause, as exact as a bin', () => {
    const found = seconds(peaks(5, [[1, 2], [3.2, 4]])); // prettier-ignore
    expect(found).toHaveLength(2);
    expect(Math.abs(found[0]! - 1)).toBeLessThan(BIN / RATE);
    expect(Math.abs(found[1]! - 3.2)).toBeLessThan(BIN / RATE);
  });
  it('are not found in a breath of a gap', () => {
    expect(seconds(peaks(5, [[1, 2], [2.08, 4]]))).toHaveLength(1); // prettier-ignore
  });
  it('a sound that stands at the very beginning begins there', () => {
    expect(seconds(peaks(3, [[0, 2]]))).toEqual([0]);
  });
  it('steady noise, silence and nothing have none', () => {
    expect(seconds(peaks(3, [], 3_000))).toEqual([]);
    expect(seconds(peaks(3, [], 0))).toEqual([]);
    expect(onsets(new Int16Array(0), BIN, RATE)).toEqual([]);
  });
  it('a sound that swells in is followed back to where it rises', () => {
    const p = peaks(3, [[1.02, 2]]);
    // At -55 dBFS already twenty milliseconds before.
    for (let b = Math.ceil((1 * RATE) / BIN); b < (1.02 * RATE) / BIN; b++) p[2 * b + 1] = Math.max(p[2 * b + 1]!, 60);
    expect(Math.abs(seconds(p)[0]! - 1)).toBeLessThan(2 * (BIN / RATE));
  });
});
