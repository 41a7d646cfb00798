import type { Clip, SessionDoc } from '@/core/session';
import { frameRate } from '@/core/units';
import { onsetsNear, onsetsOf } from './onsetPlaces';

/** Nearest place within reach that things like to stand at: cues, markers, beginnings of phrases, the playhead. */
function placeNear(doc: SessionDoc, sample: number, reach: number, playhead?: number, moved?: readonly string[]) {
  const places = [
    ...doc.cues.flatMap((c) => [c.start, c.end]),
    ...doc.markers.map((m) => m.at),
    ...(playhead === undefined ? [] : [playhead]),
    ...onsetsNear(doc, sample, reach, moved),
  ];
  let best: number | null = null;
  for (const p of places)
    if (Math.abs(p - sample) <= reach && (best === null || Math.abs(p - sample) < Math.abs(best - sample))) best = p;
  return best;
}

/** The place within reach that a point is drawn to; otherwise the nearest frame. */
export const snapTo = (doc: SessionDoc, sample: number, reach: number, playhead?: number): number =>
  placeNear(doc, sample, reach, playhead) ?? toFrame(doc, sample);

/**
 * Where a clip comes to stand that is let go at `start`: its beginning, or that of a phrase in it, whichever is nearest
 * to a place that draws it; otherwise the nearest frame.
 */
export function snapClip(
  doc: SessionDoc,
  clip: Clip,
  start: number,
  reach: number,
  playhead: number,
  moved: readonly string[],
): number {
  let best: number | null = null;
  for (const point of [clip.start, ...onsetsOf(doc, clip)]) {
    const at = point - clip.start + start;
    const place = placeNear(doc, at, reach, playhead, moved);
    if (place !== null && (best === null || Math.abs(place - at) < Math.abs(best))) best = place - at;
  }
  return best === null ? toFrame(doc, start) : Math.round(start + best);
}

/** Sample of the nearest frame. */
export function toFrame(doc: SessionDoc, sample: number): number {
  const frame = frameOf(doc);
  return Math.round(Math.round(sample / frame) * frame);
}

/** Samples of a frame, with fractions. */
export function frameOf(doc: SessionDoc): number {
  const rate = frameRate(doc.format.frameRate);
  return (doc.format.sampleRate * rate.den) / rate.num;
}
