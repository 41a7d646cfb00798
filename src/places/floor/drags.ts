import type { Clip, EditJson, SessionDoc } from '@/core/session';
import type { Part } from './hits';
import { snapClip, snapTo } from './snapping';

export interface DragContext {
  doc: SessionDoc;
  /** Clips that are moved together. */
  clips: readonly string[];
  /** Samples within which things are drawn to cues, markers, beginnings of phrases and the playhead; 0: neither, nor to frames. */
  reach: number;
  playhead: number;
  /** Whether points of lanes go along with clips. */
  lanes?: boolean;
}

/** What dragging a part of a clip by `by` samples and `rows` tracks means. */
export function dragEdit(
  { doc, clips, reach, playhead, lanes }: DragContext,
  clip: Clip,
  part: Part,
  by: number,
  rows = 0,
): EditJson {
  const snap = (sample: number) => (reach > 0 ? snapTo(doc, sample, reach, playhead) : Math.round(sample));
  const frames = doc.media[clip.media]?.frames ?? clip.length;
  const end = clip.start + clip.length;
  if (part === 'fadeIn') {
    const length = Math.round(Math.min(clip.length, Math.max(0, (clip.fadeIn?.frames ?? 0) + by)));
    return { type: 'shapeClip', clip: clip.id, fadeIn: { frames: length, curve: clip.fadeIn?.curve ?? 'power' } };
  }
  if (part === 'fadeOut') {
    const length = Math.round(Math.min(clip.length, Math.max(0, (clip.fadeOut?.frames ?? 0) - by)));
    return { type: 'shapeClip', clip: clip.id, fadeOut: { frames: length, curve: clip.fadeOut?.curve ?? 'power' } };
  }
  if (part === 'joint') return { type: 'moveJoint', clip: clip.id, at: snap(clip.start + by) };
  if (part === 'body') {
    const wanted = clip.start + by;
    const to = Math.max(0, reach > 0 ? snapClip(doc, clip, wanted, reach, playhead, clips) : Math.round(wanted));
    return {
      type: 'moveClips',
      clips: [...clips],
      by: to - clip.start,
      ...(rows ? { rows } : {}),
      ...(lanes ? { lanes } : {}),
    };
  }
  if (part === 'start') {
    const start = Math.min(end - 1, Math.max(0, clip.start - clip.offset, snap(clip.start + by)));
    return { type: 'trimClip', clip: clip.id, start, length: end - start };
  }
  const length = Math.min(frames - clip.offset, Math.max(1, snap(end + by) - clip.start));
  return { type: 'trimClip', clip: clip.id, start: clip.start, length };
}
