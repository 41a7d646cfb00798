import type { Placement } from '@/core/speakers';
import { moved, wrapDegrees } from '@/core/speakers';

/** The plan, in its own units. */
export const SIZE = { width: 600, height: 600, cx: 300, cy: 292, radius: 216 } as const;
/** The view from the left, in a corner of the plan: the front is at its left. */
export const SIDE = { cx: 60, cy: 540, radius: 46 } as const;
const RAD = Math.PI / 180;
/** Nearer than this to the middle counts as the middle. */
const CENTRE = 0.05;
/** Straighter up than this a source hardly moves on the plan: only its angle is read. */
const STEEP = 0.1;

/** Point of an azimuth (positive to the left), a distance (1 on the ring) and a height in degrees, seen from above. */
export function pointOf(azimuth: number, distance: number, elevation = 0): { x: number; y: number } {
  const r = SIZE.radius * distance * Math.cos(elevation * RAD);
  return { x: SIZE.cx - r * Math.sin(azimuth * RAD), y: SIZE.cy - r * Math.cos(azimuth * RAD) };
}

/** The same, seen from the left. */
export function sideOf(azimuth: number, distance: number, elevation: number): { x: number; y: number } {
  const r = SIDE.radius * distance;
  return {
    x: SIDE.cx - r * Math.cos(elevation * RAD) * Math.cos(azimuth * RAD),
    y: SIDE.cy - r * Math.sin(elevation * RAD),
  };
}

/** Placement of a point; the middle of the room keeps the azimuth, and the height stays. */
export function placeOf(x: number, y: number, before: Placement): Placement {
  const dx = SIZE.cx - x;
  const dy = SIZE.cy - y;
  const flat = Math.cos((before.elevation ?? 0) * RAD);
  const azimuth = wrapDegrees(Math.round(Math.atan2(dx, dy) / RAD));
  if (flat < STEEP) return moved(before, { azimuth });
  const distance = Math.min(1, Math.hypot(dx, dy) / SIZE.radius / flat);
  if (distance < CENTRE) return moved(before, { distance: 0 });
  return moved(before, { distance: Math.round(distance * 100) / 100, azimuth });
}

/** Height, in degrees, of a point of the view from the left, for a source at a distance; the middle of the room has none. */
export function elevationOf(y: number, { distance }: Placement): number {
  if (distance === 0) return 0;
  const up = (SIDE.cy - y) / (SIDE.radius * distance);
  return Math.round(Math.asin(Math.min(1, Math.max(-1, up))) / RAD);
}
