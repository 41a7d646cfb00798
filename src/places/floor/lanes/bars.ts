import type { SessionDoc } from '@/core/session';
import { TempoMap } from '@/core/units';

export interface BarMark {
  sample: number;
  bar: number;
}

export interface TempoMark {
  sample: number;
  tempo: number;
}

/** First samples of bars in [from, to], so few that they stand at least `gap` samples apart. */
export function barMarks(doc: SessionDoc, from: number, to: number, gap: number): BarMark[] {
  const rate = doc.format.sampleRate;
  const map = new TempoMap(doc.tempo.tempos, doc.tempo.meters);
  const at = (bar: number) => map.sampleOf(map.beatOf(bar), rate);
  const first = map.barAt(map.beatAt(Math.max(0, from) / rate)).bar;
  let step = 1;
  // Every bar, every second, fourth, eighth: as phrases are counted.
  while (at(first + step) - at(first) < gap && step < 4096) step *= 2;
  const marks: BarMark[] = [];
  for (let bar = 1 + Math.floor((first - 1) / step) * step; at(bar) <= to; bar += step)
    if (at(bar) >= from) marks.push({ sample: at(bar), bar });
  return marks;
}

/** Where the tempo changes in [from, to], and what it is at the left edge. */
export function tempoMarks(doc: SessionDoc, from: number, to: number): TempoMark[] {
  const rate = doc.format.sampleRate;
  const map = new TempoMap(doc.tempo.tempos, doc.tempo.meters);
  const changes = doc.tempo.tempos.map((t) => ({ sample: map.sampleOf(t.beat, rate), tempo: t.tempo }));
  const inside = changes.filter((t) => t.sample > from && t.sample <= to);
  return [{ sample: from, tempo: map.tempoAt(map.beatAt(Math.max(0, from) / rate)) }, ...inside];
}
