import type { Kernels } from '@/core/kernels';
import type { Layout } from './layouts';

/** Where a source stands. */
export interface Placement {
  /** Degrees, positive to the left, -180 to 180. */
  azimuth: number;
  /** 0 the centre of the room (all speakers alike), 1 on the ring. */
  distance: number;
  /** Spread of a stereo source in degrees: its sides stand half of it left and right. */
  width: number;
  /** Level into the LFE channel in dB; at or below -100: none. */
  lfe: number;
}

export const FRONT: Placement = { azimuth: 0, distance: 1, width: 60, lfe: -100 };

export const wrapDegrees = (a: number): number => ((((a + 180) % 360) + 360) % 360) - 180;

/**
 * Gains of a mono source into each channel of `layout`: pairwise constant power at ear height (Pulkki's
 * vector base amplitude panning in the plane, -3.01 dB each in the middle of a pair), blended with an
 * even spread towards the centre of the room. Sum of squares without LFE is 1.
 */
export function placementGains(k: Kernels, layout: Layout, place: Placement): number[] {
  const ring = layout.speakers
    .map((s, index) => ({ ...s, index }))
    .filter((s) => !s.lfe && s.elevation === 0)
    .sort((a, b) => a.azimuth - b.azimuth);
  const angles = k.putF64(ring.map((s) => s.azimuth));
  const out = k.x.alloc(ring.length * 8);
  k.x.panGains(place.azimuth, place.distance, angles, ring.length, out);
  const gains = layout.speakers.map((s) => (s.lfe && place.lfe > -100 ? k.gain(place.lfe) : 0));
  const view = k.f64(out, ring.length);
  ring.forEach((s, i) => (gains[s.index] = view[i]!));
  k.x.release(angles);
  k.x.release(out);
  return gains;
}

/** Gains of each channel of a stereo source: its sides are placed like mono sources, apart by the width. */
export function stereoPlacementGains(k: Kernels, layout: Layout, place: Placement): number[][] {
  return [1, -1].map((side) =>
    placementGains(k, layout, { ...place, azimuth: wrapDegrees(place.azimuth + (side * place.width) / 2) }),
  );
}
