import { SPEED_OF_SOUND } from '@/core/acoustics';
import { angleBetween } from './roomFaults';

/**
 * Places of the microphone from which a direction follows: the seat, and so many metres to the front, to the left and up.
 */
export const MIC_STEP = 0.25;
export const MIC_PLACES = ['seat', 'front', 'left', 'up'] as const;
export type MicPlace = (typeof MIC_PLACES)[number];

/** Metres: to the front, to the left, up. */
export const micAt = (place: MicPlace): readonly [number, number, number] => [
  place === 'front' ? MIC_STEP : 0,
  place === 'left' ? MIC_STEP : 0,
  place === 'up' ? MIC_STEP : 0,
];

export interface Direction {
  azimuth: number;
  elevation: number;
}

/**
 * Where a sound comes from, by its delays (samples) at the four places: along each axis the distance changes from r to
 * r', and the coordinate of the source is (r² - r'² + d²) / 2d (the intersection of two spheres). `distance`: metres from
 * the seat, about; its error hardly turns the direction.
 */
export function directionOf(delays: Record<MicPlace, number>, distance: number, rate: number): Direction {
  const along = (place: MicPlace): number => {
    const r = distance + ((delays[place] - delays.seat) / rate) * SPEED_OF_SOUND;
    return (distance ** 2 - r ** 2 + MIC_STEP ** 2) / (2 * MIC_STEP);
  };
  const [x, y, z] = [along('front'), along('left'), along('up')];
  const degrees = (rad: number) => (rad * 180) / Math.PI;
  return { azimuth: degrees(Math.atan2(y, x)), elevation: degrees(Math.atan2(z, Math.hypot(x, y))) };
}

/** A loudspeaker that should stand in a direction, and where its sound came from. */
export interface Heard extends Direction {
  label: string;
  /** Null: it was not heard, or has no direction. */
  from: Direction | null;
}

/** Degrees by which two must be nearer to each other's places, together, than to their own. */
const CROSSED = 40;

/** Pairs that are heard each where the other should stand: the clearest first, each loudspeaker in one. */
export function swappedPairs(speakers: readonly Heard[]): [string, string][] {
  const known = speakers.filter((s): s is Heard & { from: Direction } => s.from !== null);
  const pairs = known.flatMap((a, i) =>
    known.slice(i + 1).map((b) => ({
      pair: [a.label, b.label] as [string, string],
      by: angleBetween(a.from, a) + angleBetween(b.from, b) - angleBetween(a.from, b) - angleBetween(b.from, a),
    })),
  );
  const taken = new Set<string>();
  return pairs
    .filter((p) => p.by > CROSSED)
    .sort((a, b) => b.by - a.by)
    .flatMap(({ pair }) => {
      if (pair.some((label) => taken.has(label))) return [];
      pair.forEach((label) => taken.add(label));
      return [pair];
    });
}
