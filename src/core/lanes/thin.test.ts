import fc from 'fast-check';
import { expect, it } from 'vitest';
import { laneValue, thinned, type LanePoint } from '.';

const line = (...points: [number, number][]): LanePoint[] =>
  points.map(([at, value]) => ({ at, value, shape: 'line' }));

it('points on a straight line are its two ends', () => {
  const ramp = line(...Array.from({ length: 100 }, (_, i): [number, number] => [i * 10, -20 + i * 0.1]));
  expect(thinned(ramp, 0.01)).toEqual([ramp[0], ramp.at(-1)]);
});

it('a corner stays', () => {
  expect(thinned(line([0, 0], [10, -6], [20, 0]), 0.05)).toHaveLength(3);
});

it('no point is missed by more than the tolerance, whatever is ridden', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 1, max: 5000 }), fc.double({ min: -60, max: 12, noNaN: true })), {
        minLength: 1,
        maxLength: 80,
      }),
      fc.double({ min: 0.01, max: 3, noNaN: true }),
      (steps, tolerance) => {
        let at = 0;
        const points = line(...steps.map(([gap, value]): [number, number] => [(at += gap), value]));
        const thin = thinned(points, tolerance);
        for (const p of points) expect(Math.abs(laneValue(thin, p.at) - p.value)).toBeLessThanOrEqual(tolerance + 1e-9);
        expect(thin.length).toBeLessThanOrEqual(points.length);
      },
    ),
  );
});
