import type { ChannelSet, Kernels } from '@/core/kernels';
import type { Track } from '@/core/session';

/** A piece of a file that sounds within a span of the timeline. */
export interface SpanItem {
  media: string;
  /** First frame in the file, and how many. */
  from: number;
  frames: number;
  /** Where in the span it begins. */
  at: number;
  gain: number;
}

/** The pieces of a track's clips that fall into [from, from + frames) of the timeline. */
export function itemsIn(track: Track, from: number, frames: number): SpanItem[] {
  const items: SpanItem[] = [];
  for (const clip of track.clips) {
    const start = Math.max(from, clip.start);
    const end = Math.min(from + frames, clip.start + clip.length);
    if (end <= start) continue;
    items.push({
      media: clip.media,
      from: clip.offset + start - clip.start,
      frames: end - start,
      at: start - from,
      gain: clip.gain,
    });
  }
  return items;
}

/** Adds an item's samples, which stand in `planar` (one array a channel), to the span's buffers. */
export function layItem(
  k: Kernels,
  span: ChannelSet,
  scratch: number,
  item: SpanItem,
  planar: readonly Float32Array[],
): void {
  const gain = k.gain(item.gain);
  for (let c = 0; c < span.channels; c++) {
    const samples = planar[Math.min(c, planar.length - 1)];
    if (!samples) continue;
    const n = Math.min(item.frames, samples.length);
    k.heap.set(samples.length === n ? samples : samples.subarray(0, n), scratch >> 2);
    k.x.mix(scratch, span.at(c) + item.at * 4, n, gain);
  }
}
