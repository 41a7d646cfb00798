import type { Placement } from '@/core/speakers';
import { wrapDegrees } from '@/core/speakers';

/** The plan, in its own units. */
export const SIZE = { width: 600, height: 600, cx: 300, cy: 292, radius: 216 } as const;
const RAD = Math.PI / 180;
/** Nearer than this to the middle counts as the middle. */
const CENTRE = 0.05;

/** Point of an azimuth (positive to the left) and distance (1 on the ring). */
export function pointOf(azimuth: number, distance: number): { x: number; y: number } {
  const r = SIZE.radius * distance;
  return { x: SIZE.cx - r * Math.sin(azimuth * RAD), y: SIZE.cy - r * Math.cos(azimuth * RAD) };
}

/** Placement of a point; the middle of the room keeps the azimuth. */
export function placeOf(x: number, y: number, before: Placement): Placement {
  const dx = SIZE.cx - x;
  const dy = SIZE.cy - y;
  const distance = Math.min(1, Math.hypot(dx, dy) / SIZE.radius);
  if (distance < CENTRE) return { ...before, distance: 0 };
  return {
    ...before,
    distance: Math.round(distance * 100) / 100,
    azimuth: wrapDegrees(Math.round(Math.atan2(dx, dy) / RAD)),
  };
}
