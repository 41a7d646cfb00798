import { create } from 'zustand';

export const PEAK_BIN = 256;

/** Peaks of media files by id: i16 pairs, smallest and largest, one pair per 256 frames. */
export const usePeaks = create<{ files: Record<string, Int16Array> }>(() => ({ files: {} }));

const asked = new Map<string, number>();

/** Fetches a file's peaks once, and again when it has grown. */
export function wantPeaks(media: string, frames: number): void {
  if (asked.get(media) === frames) return;
  asked.set(media, frames);
  void (async () => {
    const response = await fetch(`/api/media/${media}/peaks`);
    if (!response.ok) {
      asked.delete(media);
      return;
    }
    const samples = new Int16Array(await response.arrayBuffer());
    usePeaks.setState((s) => ({ files: { ...s.files, [media]: samples } }));
  })();
}
