import { create } from 'zustand';

export const PEAK_BIN = 256;
/** Each level of peaks is so much coarser than the one before. */
const COARSER = 16;
const LEVELS = 3;

/** i16 pairs, smallest and largest; one pair per 256, 4096 and 65536 frames. */
export type PeakLevels = readonly Int16Array[];

/** Peaks of media files by id. */
export const usePeaks = create<{ files: Record<string, PeakLevels> }>(() => ({ files: {} }));

const asked = new Map<string, number>();

function coarser(peaks: Int16Array): Int16Array {
  const bins = Math.ceil(peaks.length / 2 / COARSER);
  const out = new Int16Array(bins * 2);
  for (let b = 0; b < bins; b++) {
    let [low, high] = [0, 0];
    const end = Math.min(peaks.length / 2, (b + 1) * COARSER);
    for (let i = b * COARSER; i < end; i++) {
      low = Math.min(low, peaks[2 * i]!);
      high = Math.max(high, peaks[2 * i + 1]!);
    }
    out[2 * b] = low;
    out[2 * b + 1] = high;
  }
  return out;
}

/** All levels of the finest one. */
export function peakLevels(finest: Int16Array): PeakLevels {
  const levels = [finest];
  while (levels.length < LEVELS) levels.push(coarser(levels.at(-1)!));
  return levels;
}

/** Fetches a file's peaks once, and again when it has grown. */
export function wantPeaks(media: string, frames: number): void {
  if (asked.get(media) === frames) return;
  asked.set(media, frames);
  void (async () => {
    const response = await fetch(`/api/media/${media}/peaks`, { method: 'POST' }).catch(() => null);
    if (!response?.ok) {
      asked.delete(media);
      return;
    }
    const levels = peakLevels(new Int16Array(await response.arrayBuffer()));
    usePeaks.setState((s) => ({ files: { ...s.files, [media]: levels } }));
  })();
}
