import { EditRefused, type Clip, type FadeCurve, type SessionDoc, type Track } from './document';
import { JOINT_SECONDS, settleClips } from './fades';

/**
 * The one rule for overlaps: what is placed last is heard. Clips under it give way, cut at its edges, without losing
 * any of their sound: pulled out again, it is there. A locked clip does not give way; then the placing is refused.
 */
export function placeClip(doc: SessionDoc, track: Track, fresh: Clip): void {
  const end = fresh.start + fresh.length;
  const kept: Clip[] = [];
  for (const clip of track.clips) {
    const clipEnd = clip.start + clip.length;
    if (clip.id === fresh.id) continue;
    if (clipEnd <= fresh.start || clip.start >= end) {
      kept.push(clip);
      continue;
    }
    if (clip.locked) throw new EditRefused(`${clip.name} is locked and lies there; unlock it first.`);
    if (clip.start < fresh.start) kept.push(headOf(clip, fresh.start - clip.start));
    if (clipEnd > end) kept.push(tailOf(clip, end - clip.start, `${clip.id}~${fresh.id}`.slice(0, 80)));
  }
  track.clips = [...kept, fresh];
  settleClips(doc, track);
}

/** Places a clip and crossfades it with what it meets on either side, as far as there is sound for it. */
export function placeWithJoints(doc: SessionDoc, track: Track, fresh: Clip, curve: FadeCurve = 'power'): void {
  const frames = Math.round(JOINT_SECONDS * doc.format.sampleRate);
  const end = fresh.start + fresh.length;
  placeClip(doc, track, { ...fresh, joint: { frames, curve } });
  const right = track.clips.find((c) => c.start === end);
  if (right && !right.locked) right.joint = { frames, curve };
  settleClips(doc, track);
}

/** A track's clips without what lies in [start, end). */
export function withoutStretch(clips: readonly Clip[], start: number, end: number): Clip[] {
  return clips.flatMap((clip) => {
    const clipEnd = clip.start + clip.length;
    if (clipEnd <= start || clip.start >= end) return [clip];
    return [
      ...(clip.start < start ? [headOf(clip, start - clip.start)] : []),
      ...(clipEnd > end ? [tailOf(clip, end - clip.start, `${clip.id}~`)] : []),
    ];
  });
}

/** The first `frames` of a clip. */
export function headOf(clip: Clip, frames: number): Clip {
  const { fadeOut: _cut, ...rest } = clip;
  return { ...rest, length: frames };
}

/** What remains of a clip after its first `frames`. */
export function tailOf(clip: Clip, frames: number, id: string): Clip {
  const { fadeIn: _cut, joint: _gone, ...rest } = clip;
  return { ...rest, id, start: clip.start + frames, offset: clip.offset + frames, length: clip.length - frames };
}
