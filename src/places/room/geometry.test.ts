import { expect, it } from 'vitest';
import { FRONT } from '@/core/speakers';
import { placeOf, pointOf, SIZE } from './geometry';

it('puts the left speaker to the left of the middle and in front', () => {
  const p = pointOf(30, 1);
  expect(p.x).toBeCloseTo(SIZE.cx - SIZE.radius / 2, 6);
  expect(p.y).toBeLessThan(SIZE.cy);
});

it('reads a placement back from its point', () => {
  for (const azimuth of [-150, -30, 0, 45, 110]) {
    const { x, y } = pointOf(azimuth, 0.8);
    expect(placeOf(x, y, FRONT)).toMatchObject({ azimuth, distance: 0.8 });
  }
});

it('catches the centre of the room and holds sources inside the ring', () => {
  expect(placeOf(SIZE.cx + 4, SIZE.cy, { ...FRONT, azimuth: 77 })).toMatchObject({ distance: 0, azimuth: 77 });
  expect(placeOf(-500, SIZE.cy, FRONT).distance).toBe(1);
});
