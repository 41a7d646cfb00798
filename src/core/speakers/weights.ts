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
