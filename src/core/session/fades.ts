import type { Clip, Fade, FadeCurve, SessionDoc, Track } from './document';
import { entryOf } from './ids';

export const FADE_CURVES: readonly { id: FadeCurve; name: string; kernel: number }[] = [
  { id: 'even', name: 'equal gain', kernel: 0 },
  { id: 'power', name: 'equal power', kernel: 1 },
  { id: 'smooth', name: 'smooth', kernel: 2 },
];

/** Crossfade at the joints of a comp, seconds (common practice, no source). */
export const JOINT_SECONDS = 0.01;

/** Above this correlation two pieces are alike enough that equal gain keeps the level (see `jointCurve`). */
const ALIKE = 0.5;

/**
 * Law of a crossfade: the sum of two pieces with correlation r has power a² + b² + 2·r·a·b. With r near 1 the level
 * stays for a + b = 1 (equal gain), with r near 0 for a² + b² = 1 (equal power).
 */
export const jointCurve = (correlation: number): FadeCurve => (correlation > ALIKE ? 'even' : 'power');

/** Frames of a crossfade before the joint; the rest lies behind it. */
export const beforeJoint = (joint: Fade): number => Math.floor(joint.frames / 2);

/** Longest crossfade that both files have sound for, and that leaves both clips something of their own. */
export function longestJoint(doc: SessionDoc, left: Clip, right: Clip): number {
  const rest = (entryOf(doc.media, left.media)?.frames ?? 0) - (left.offset + left.length);
  return Math.max(0, Math.min(2 * right.offset, 2 * rest, left.length, right.length));
}

// The same sound on both sides is alike to the sample: with any other law than equal gain it would swell at the joint.
function lawful(joint: Fade, left: Clip, right: Clip): Fade {
  const same = left.media === right.media && left.start - left.offset === right.start - right.offset;
  const { same: was, ...rest } = joint;
  if (same) return { ...rest, curve: 'even', same: true };
  return was ? { ...rest, curve: 'power' } : rest;
}

/** Puts a track's clips in order, and fades and joints within what is there. Called after every change of clips. */
export function settleClips(doc: SessionDoc, track: Track): void {
  track.clips.sort((a, b) => a.start - b.start);
  track.clips.forEach((clip, i) => {
    if (clip.joint) {
      const left = track.clips[i - 1];
      const meets = left && left.start + left.length === clip.start;
      const frames = meets ? Math.min(clip.joint.frames, longestJoint(doc, left, clip)) : 0;
      if (frames > 0) clip.joint = lawful({ ...clip.joint, frames }, left!, clip);
      else delete clip.joint;
    }
    for (const side of ['fadeIn', 'fadeOut'] as const) {
      const fade = clip[side];
      if (!fade) continue;
      if (fade.frames <= 0) delete clip[side];
      else if (fade.frames > clip.length) clip[side] = { ...fade, frames: clip.length };
    }
  });
}
