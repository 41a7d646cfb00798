import type { ChannelSet, Kernels } from '@/core/kernels';
import { beforeJoint, FADE_CURVES, rolledTo, type Fade, type Track } from '@/core/session';

/** A piece of a file that sounds within a span of the timeline. */
export interface SpanItem {
  media: string;
  /** First frame in the file, and how many. */
  from: number;
  frames: number;
  /** Where in the span it begins. */
  at: number;
  gain: number;
  /** Fades that touch it, in frames of the item. */
  fades: ItemFade[];
}

interface ItemFade {
  at: number;
  frames: number;
  /** Frame of the fade at `at`, and how many it has. */
  first: number;
  length: number;
  /** Law, as the kernels number it. */
  curve: number;
  falling: boolean;
}

/** The pieces of a track's clips that fall into [from, from + frames) of the timeline. */
export function itemsIn(track: Track, from: number, frames: number): SpanItem[] {
  const items: SpanItem[] = [];
  track.clips.forEach((clip, i) => {
    if (clip.muted) return;
    const next = track.clips[i + 1];
    const joint = next?.joint && next.start === clip.start + clip.length ? next.joint : undefined;
    // A joint sounds on both its sides: each clip goes on into it with the sound that its file has there.
    const first = clip.start - (clip.joint ? beforeJoint(clip.joint) : 0);
    const last = clip.start + clip.length + (joint ? joint.frames - beforeJoint(joint) : 0);
    const start = Math.max(from, first);
    const end = Math.min(from + frames, last);
    if (end <= start) return;
    items.push({
      media: clip.media,
      from: clip.offset + start - clip.start,
      frames: end - start,
      at: start - from,
      gain: clip.gain,
      fades: [
        ...(clip.joint ? partOf(first, clip.joint, start, end, false) : []),
        ...(joint ? partOf(last - joint.frames, joint, start, end, true) : []),
        ...(clip.fadeIn ? partOf(clip.start, clip.fadeIn, start, end, false) : []),
        ...(clip.fadeOut ? partOf(clip.start + clip.length - clip.fadeOut.frames, clip.fadeOut, start, end, true) : []),
      ],
    });
  });
  return items;
}

/** The part of a fade beginning at `at` that falls into [start, end). */
function partOf(at: number, fade: Fade, start: number, end: number, falling: boolean): ItemFade[] {
  const from = Math.max(at, start);
  const frames = Math.min(at + fade.frames, end) - from;
  if (frames <= 0) return [];
  const curve = FADE_CURVES.find((c) => c.id === fade.curve)!.kernel;
  return [{ at: from - start, frames, first: from - at, length: fade.frames, curve, falling }];
}

/** The same for a span that begins `rolled` frames after `from`, going round in `loop` once it is reached. */
export function itemsRolled(
  track: Track,
  from: number,
  rolled: number,
  frames: number,
  loop: { start: number; end: number } | null,
): SpanItem[] {
  const items: SpanItem[] = [];
  for (let done = 0; done < frames;) {
    const at = rolledTo(from, rolled + done, loop);
    const count = loop ? Math.min(frames - done, loop.end - at) : frames - done;
    for (const item of itemsIn(track, at, count)) items.push({ ...item, at: item.at + done });
    done += count;
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
    for (const f of item.fades) {
      const there = Math.min(f.frames, n - f.at);
      if (there > 0) k.x.fadeRun(scratch + f.at * 4, there, f.first, f.length, f.curve, f.falling);
    }
    k.x.mix(scratch, span.at(c) + item.at * 4, n, gain);
  }
}
