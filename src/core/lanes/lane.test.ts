import { describe, expect, it } from 'vitest';
import { laneValue, pointBefore, rewritten, type LanePoint } from '.';

const points: LanePoint[] = [
  { at: 100, value: -10, shape: 'line' },
  { at: 200, value: 0, shape: 'step' },
  { at: 300, value: -40, shape: 'smooth' },
  { at: 500, value: 0, shape: 'line' },
];

describe('the value of a lane', () => {
  it.each([
    [0, -10],
    [100, -10],
    [150, -5],
    [199, -0.1],
    [200, 0],
    [299, 0],
    [300, -40],
    // 3/16 - 2/64 of the way at a quarter, half of it in the middle.
    [350, -40 + 40 * (3 / 16 - 2 / 64)],
    [400, -20],
    [500, 0],
    [9999, 0],
  ])('at %i is %d', (at, value) => expect(laneValue(points, at)).toBeCloseTo(value, 10));
  it('goes straight in ratios where that is asked', () => {
    const sweep: LanePoint[] = [
      { at: 0, value: 100, shape: 'line' },
      { at: 1000, value: 10_000, shape: 'line' },
    ];
    expect(laneValue(sweep, 500, { to: Math.log, from: Math.exp })).toBeCloseTo(1000, 6);
  });
  it('of no points does not exist', () => expect(() => laneValue([], 0)).toThrow(RangeError));
});

it('the last point at or before a sample is found', () => {
  expect([-5, 99, 100, 250, 300, 1e6].map((at) => pointBefore(points, at))).toEqual([-1, -1, 0, 1, 2, 3]);
});

it('a stretch that is written anew leaves what lies outside', () => {
  const next = rewritten(points, 150, 300, [{ at: 222, value: 1, shape: 'line' }]);
  expect(next.map((p) => p.at)).toEqual([100, 222, 500]);
  expect(rewritten(points, 0, 900, [])).toEqual([]);
});
