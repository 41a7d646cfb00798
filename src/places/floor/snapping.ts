import type { SessionDoc } from '@/core/session';
import { frameRate } from '@/core/units';

/** Nearest place within reach that things like to stand at: cues, markers, the playhead; otherwise the nearest frame. */
export function snapTo(doc: SessionDoc, sample: number, reach: number, playhead?: number): number {
  const places = [
    ...doc.cues.flatMap((c) => [c.start, c.end]),
    ...doc.markers.map((m) => m.at),
    ...(playhead === undefined ? [] : [playhead]),
  ];
  let best: number | null = null;
  for (const p of places)
    if (Math.abs(p - sample) <= reach && (best === null || Math.abs(p - sample) < Math.abs(best - sample))) best = p;
  return best ?? toFrame(doc, sample);
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
