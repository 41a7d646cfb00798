import { pathFrom, type SessionDoc } from '@/core/session';

/**
 * Tracks that sound while something is soloed: soloed ones, and those that pass a soloed bus. Null when
 * nothing is soloed.
 */
export function soloedTracks(doc: SessionDoc): Set<string> | null {
  if (!doc.tracks.some((t) => t.soloed) && !doc.buses.some((b) => b.soloed)) return null;
  return new Set(
    doc.tracks.filter((t) => t.soloed || pathFrom(doc, t.destination).some((b) => b.soloed)).map((t) => t.id),
  );
}
