import { TempoMap } from '@/core/units';
import type { SessionDoc } from './document';

/** Moves the clips of musical tracks from the present tempo map to `next`, each by the beat it starts on. */
export function carryMusic(doc: SessionDoc, next: SessionDoc['tempo']): void {
  const rate = doc.format.sampleRate;
  const from = new TempoMap(doc.tempo.tempos, doc.tempo.meters);
  const to = new TempoMap(next.tempos, next.meters);
  for (const track of doc.tracks) {
    if (track.anchor !== 'music') continue;
    for (const clip of track.clips) clip.start = Math.round(to.secondsOf(from.beatAt(clip.start / rate)) * rate);
  }
}
