import type { Track } from './document';

/** Stretches of a track between `start` and `end` where no clip lies, in order. */
export function gapsOf(track: Track, start: number, end: number): { start: number; end: number }[] {
  const gaps: { start: number; end: number }[] = [];
  let at = start;
  for (const clip of [...track.clips].sort((a, b) => a.start - b.start)) {
    if (clip.start >= end) break;
    if (clip.start > at) gaps.push({ start: at, end: clip.start });
    at = Math.max(at, clip.start + clip.length);
  }
  if (at < end) gaps.push({ start: at, end });
  return gaps;
}
