import { describe, expect, it } from 'vitest';
import { noise } from '../../../tests/support/kernels';
import { FoldWatch } from './foldWatch';

const RATE = 48_000;
const STEP = 4_800;

/** Folds channels by gains, as a fold-down does. */
function watched(mix: Float32Array[], gains: number[][]) {
  const folded = gains[0]!.map((_, o) =>
    Float32Array.from({ length: STEP }, (_x, i) => mix.reduce((s, c, from) => s + c[i]! * gains[from]![o]!, 0)),
  );
  const watch = new FoldWatch(RATE, gains);
  // In blocks that do not fit the step.
  const heap = new Float32Array((mix.length + folded.length) * STEP);
  [...mix, ...folded].forEach((c, i) => heap.set(c, i * STEP));
  for (let at = 0; at < STEP; at += 480) {
    const from = (first: number, count: number) => Array.from({ length: count }, (_, c) => (first + c) * STEP + at);
    watch.run(heap, from(0, mix.length), from(mix.length, folded.length), 480);
  }
  return watch.take();
}

const a = noise(STEP, 0.5, 3);
const b = noise(STEP, 0.5, 5);
const mono = [[Math.SQRT1_2], [Math.SQRT1_2]];

describe('a fold-down that is watched', () => {
  it('loses nothing where sounds have nothing to do with each other', () => {
    const [reading] = watched([a, b], mono);
    expect(Math.abs(reading!.loss[0]!)).toBeLessThan(0.3);
  });
  it('is 3 dB louder where both are the same, and loses all where one is the other turned over', () => {
    expect(watched([a, a], mono)[0]!.loss[0]).toBeCloseTo(3.01, 1);
    expect(watched([a, a.map((x) => -x)], mono)[0]!.loss[0]).toBeLessThan(-50);
  });
  it('tells how alike its left and right are', () => {
    const straight = [
      [1, 0],
      [0, 1],
    ];
    expect(watched([a, a], straight)[0]!.correlation).toBeCloseTo(1, 6);
    expect(watched([a, a.map((x) => -x)], straight)[0]!.correlation).toBeCloseTo(-1, 6);
    expect(Math.abs(watched([a, b], straight)[0]!.correlation!)).toBeLessThan(0.05);
  });
  it('tells nothing of silence', () => {
    const silent = new Float32Array(STEP);
    expect(watched([silent, silent], mono)).toEqual([{ correlation: null, loss: [null] }]);
  });
});
