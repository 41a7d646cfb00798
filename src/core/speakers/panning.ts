import type { Kernels } from '@/core/kernels';
import type { Layout } from './layouts';
import { heightGains } from './triangles';

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
  /** Degrees above ear height, -90 to 90; left out: 0. */
  elevation?: number;
  /** Degrees over which a source is spread around its direction, 0 to 180; left out: 0. */
  spread?: number;
  /** Of a mono source: in this speaker alone, by its label, where the layout has it; the rest says where that stands. */
  speaker?: string;
}

export const FRONT: Placement = { azimuth: 0, distance: 1, width: 60, lfe: -100 };

export const wrapDegrees = (a: number): number => ((((a + 180) % 360) + 360) % 360) - 180;

/**
 * Gains of a mono source into each channel of `layout`: vector base amplitude panning, in the plane for a
 * source at ear height (-3.01 dB each in the middle of a pair), over triangles above and below it where the
 * layout has height; a spread source is the power mean of directions around it; all blended with an even
 * share of every speaker towards the centre of the room; what stands where no speakers are is heard as in a mirror. Sum of squares without LFE is 1. A source in one speaker alone
 * sounds there at unity.
 */
export function placementGains(k: Kernels, layout: Layout, place: Placement): number[] {
  if (layout.speakers.some((s) => s.label === place.speaker))
    return layout.speakers.map((s) => (s.label === place.speaker ? 1 : 0));
  const count = layout.speakers.filter((s) => !s.lfe).length;
  const { azimuth, elevation = 0, spread = 0 } = place;
  const gains =
    spread > 0 ? spreadGains(k, layout, azimuth, elevation, spread) : directionGains(k, layout, azimuth, elevation);
  const distance = Math.min(1, Math.max(0, place.distance));
  const even = (1 - distance) / Math.sqrt(count);
  const blended = gains.map((g, c) => (layout.speakers[c]!.lfe ? 0 : g * distance + even));
  const unit = 1 / Math.sqrt(blended.reduce((s, g) => s + g * g, 0));
  return blended.map((g, c) =>
    layout.speakers[c]!.lfe
      ? place.lfe > -100
        ? k.gain(place.lfe)
        : 0
      : distance === 1 && spread === 0
        ? g
        : g * unit,
  );
}

function directionGains(k: Kernels, layout: Layout, azimuth: number, elevation: number): number[] {
  const hasHeight = layout.speakers.some((s) => !s.lfe && s.elevation !== 0);
  return elevation !== 0 && hasHeight ? heightGains(layout, azimuth, elevation) : ringGains(k, layout, azimuth);
}

// Pulkki, "Uniform spreading of amplitude panned virtual sources", IEEE WASPAA 1999: several directions at once.
const SPREAD_DIRECTIONS = 9;

function spreadGains(k: Kernels, layout: Layout, azimuth: number, elevation: number, spread: number): number[] {
  const power = layout.speakers.map(() => 0);
  for (let i = 0; i < SPREAD_DIRECTIONS; i++) {
    const at = wrapDegrees(azimuth + (i / (SPREAD_DIRECTIONS - 1) - 0.5) * spread);
    directionGains(k, layout, at, elevation).forEach((g, c) => (power[c]! += g * g));
  }
  return power.map((p) => Math.sqrt(p / SPREAD_DIRECTIONS));
}

function ringGains(k: Kernels, layout: Layout, azimuth: number): number[] {
  let ring = layout.speakers.map((s, index) => ({ ...s, index })).filter((s) => !s.lfe && s.elevation === 0);
  // A layout of one's own may have nothing at ear height.
  if (ring.length === 0) ring = layout.speakers.map((s, index) => ({ ...s, index })).filter((s) => !s.lfe);
  ring.sort((a, b) => a.azimuth - b.azimuth);
  const gap = wideGap(
    ring.map((s) => s.azimuth),
    azimuth,
  );
  if (gap?.shares) {
    const row = layout.speakers.map(() => 0);
    gap.pair.forEach((i, side) => (row[ring[i]!.index] = gap.shares![side]!));
    return row;
  }
  const angles = k.putF64(ring.map((s) => s.azimuth));
  const out = k.x.alloc(ring.length * 8);
  k.x.panGains(gap?.mirrored ?? azimuth, 1, angles, ring.length, out);
  const gains = layout.speakers.map(() => 0);
  const view = k.f64(out, ring.length);
  ring.forEach((s, i) => (gains[s.index] = view[i]!));
  k.x.release(angles);
  k.x.release(out);
  return gains;
}

interface WideGap {
  /** Where it is heard in its place; null: at the nearer speaker. */
  mirrored: number | null;
  /** Of two speakers that stand opposite each other, and the share of each. */
  pair: [number, number];
  shares: [number, number] | null;
}

/**
 * Between neighbours that stand half a circle or more apart no pair of gains gives a direction. What moves through such
 * a gap is heard on the other side, as in a mirror: behind two loudspeakers it passes their middle, and does not jump from
 * one to the other. Null: no such gap lies there.
 */
function wideGap(sorted: readonly number[], azimuth: number): WideGap | null {
  if (sorted.length < 2) return null;
  for (const [i, from] of sorted.entries()) {
    const j = (i + 1) % sorted.length;
    const width = sorted[j]! - from + (j === 0 ? 360 : 0);
    const into = (((azimuth - from) % 360) + 360) % 360;
    if (width < 180 - 1e-6 || into >= width) continue;
    const pair: [number, number] = [i, j];
    if (width <= 180 + 1e-6) {
      // Two that face each other: the one fades as the other comes, at constant power.
      const turn = (into / width) * (Math.PI / 2);
      return { mirrored: null, pair, shares: [Math.cos(turn), Math.sin(turn)] };
    }
    const mirrored = wrapDegrees(2 * (from + width / 2 + 90) - azimuth);
    const seen = (((mirrored - from) % 360) + 360) % 360;
    return { mirrored: seen > width ? mirrored : null, pair, shares: null };
  }
  return null;
}

/** Gains of each channel of a stereo source: its sides are placed like mono sources, apart by the width. */
export function stereoPlacementGains(k: Kernels, layout: Layout, place: Placement): number[][] {
  return [1, -1].map((side) =>
    placementGains(k, layout, {
      ...place,
      speaker: undefined,
      azimuth: wrapDegrees(place.azimuth + (side * place.width) / 2),
    }),
  );
}

/** A place in one speaker alone, an LFE too. Throws RangeError when the layout has no such speaker. */
export function atSpeaker(layout: Layout, label: string): Placement {
  const found = layout.speakers.find((s) => s.label === label);
  if (!found) throw new RangeError(`${layout.name} has no speaker ${label}`);
  const { azimuth, elevation } = found;
  return { azimuth, distance: 1, width: 0, lfe: -100, ...(elevation === 0 ? {} : { elevation }), speaker: label };
}

/** A place that was moved: it is no longer in one speaker alone. */
export function moved({ speaker: _, ...place }: Placement, part: Partial<Placement>): Placement {
  return { ...place, ...part };
}
