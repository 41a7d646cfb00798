import { PEAK_BIN, usePeaks } from '@/client';
import { onsets } from '@/core/measure';
import type { Clip, SessionDoc } from '@/core/session';

const known = new WeakMap<Int16Array, number[]>();

/** Where phrases begin in a clip, on the timeline; none while its peaks are not there. */
export function onsetsOf(doc: SessionDoc, clip: Clip): number[] {
  const peaks = usePeaks.getState().files[clip.media]?.[0];
  if (!peaks) return [];
  let found = known.get(peaks);
  if (!found) known.set(peaks, (found = onsets(peaks, PEAK_BIN, doc.format.sampleRate)));
  const at = clip.start - clip.offset;
  return found.filter((f) => f >= clip.offset && f < clip.offset + clip.length).map((f) => f + at);
}

/** Farther than this a phrase draws nothing, however far one has zoomed out (s): there are many of them. */
const MOST_REACH = 0.1;

/** Beginnings of phrases within reach of a place, in clips that are not moved themselves. */
export function onsetsNear(doc: SessionDoc, sample: number, wanted: number, moved: readonly string[] = []): number[] {
  const reach = Math.min(wanted, MOST_REACH * doc.format.sampleRate);
  return doc.tracks.flatMap((t) =>
    t.clips
      .filter((c) => c.start <= sample + reach && c.start + c.length >= sample - reach && !moved.includes(c.id))
      .flatMap((c) => onsetsOf(doc, c))
      .filter((o) => Math.abs(o - sample) <= reach),
  );
}
