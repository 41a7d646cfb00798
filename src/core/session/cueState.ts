import type { Cue, SessionDoc, Take, Track } from './document';

export type CueState = 'open' | 'recorded' | 'circled' | 'done';

/** Takes recorded for a cue, with their tracks, oldest first. */
export const takesOfCue = (doc: SessionDoc, cue: string): { track: Track; take: Take }[] =>
  doc.tracks.flatMap((track) => track.takes.filter((t) => t.cue === cue).map((take) => ({ track, take })));

/** How far a cue has come. */
export function cueState(doc: SessionDoc, cue: Cue): CueState {
  if (cue.done) return 'done';
  const takes = takesOfCue(doc, cue.id);
  if (takes.some(({ take }) => take.circled)) return 'circled';
  return takes.length > 0 ? 'recorded' : 'open';
}

/** The cue that a stretch [start, end) is about: most of the cue lies in it, or most of it in the cue. Undefined: none. */
export function cueOfStretch(doc: SessionDoc, start: number, end: number): Cue | undefined {
  const shared = (c: Cue) => Math.min(end, c.end) - Math.max(start, c.start);
  const about = doc.cues.filter((c) => 2 * shared(c) >= Math.min(c.end - c.start, end - start) && shared(c) > 0);
  return about.reduce<Cue | undefined>((best, c) => (best && shared(best) >= shared(c) ? best : c), undefined);
}

/** The cue that holds `sample`, or the next one after it; undefined behind the last. */
export const cueAt = (doc: SessionDoc, sample: number): Cue | undefined => doc.cues.find((c) => c.end > sample);
