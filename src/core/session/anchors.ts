import { TempoMap } from '@/core/units';
import type { Clip, SessionDoc } from './document';
import { settleClips } from './fades';

/**
 * Moves the clips of musical tracks, those of comps that are not shown too, from the present tempo map to `next`, each
 * by the beat it starts on. Clips joined by a crossfade are one phrase and stay together.
 */
export function carryMusic(doc: SessionDoc, next: SessionDoc['tempo']): void {
  const rate = doc.format.sampleRate;
  const from = new TempoMap(doc.tempo.tempos, doc.tempo.meters);
  const to = new TempoMap(next.tempos, next.meters);
  const carried = (sample: number) => Math.round(to.secondsOf(from.beatAt(sample / rate)) * rate);
  const carry = (clips: Clip[]) => {
    let oldEnd = NaN;
    let newEnd = NaN;
    for (const clip of clips) {
      const joined = clip.joint && clip.start === oldEnd;
      oldEnd = clip.start + clip.length;
      clip.start = joined ? newEnd : carried(clip.start);
      newEnd = clip.start + clip.length;
    }
  };
  for (const track of doc.tracks) {
    if (track.anchor !== 'music') continue;
    carry(track.clips);
    for (const comp of track.otherComps ?? []) carry(comp.clips);
    settleClips(doc, track);
  }
}
