import type { Layout } from './layouts';

/**
 * Loudness weights by position, ITU-R BS.1770-4: 1.41 for channels at 60 to 120 degrees azimuth within
 * 30 degrees elevation, 0 for LFE, else 1.
 */
export function loudnessWeights(layout: Layout): number[] {
  return layout.speakers.map((s) => {
    if (s.lfe) return 0;
    const az = Math.abs(s.azimuth);
    return az >= 60 && az <= 120 && Math.abs(s.elevation) < 30 ? 1.41 : 1;
  });
}

/** Channels that stand left and right of each other, by index, left first: the pairs whose phase is compared. */
export function mirrorPairs(layout: Layout): [number, number][] {
  return layout.speakers.flatMap((s, i): [number, number][] => {
    if (s.lfe || s.azimuth <= 0) return [];
    const other = layout.speakers.findIndex((o) => !o.lfe && o.azimuth === -s.azimuth && o.elevation === s.elevation);
    return other < 0 ? [] : [[i, other]];
  });
}
