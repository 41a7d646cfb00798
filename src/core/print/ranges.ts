import type { NamedRange, SessionDoc } from '@/core/session';

/** What is printed: a set of files for each. One without a name is the session's range alone. */
export type PrintRange = Omit<NamedRange, 'id'>;

/** The ranges that a print of the session has, in order: its own one, each cue, from marker to marker, or those of its list. */
export function printRanges(doc: SessionDoc): PrintRange[] {
  const { by, list = [] } = doc.printing ?? {};
  if (by === 'cues') return doc.cues.map(({ number, start, end }) => ({ name: number, start, end }));
  if (by === 'list') return list.map(({ name, start, end }) => ({ name, start, end }));
  if (by !== 'markers') return [{ name: '', ...doc.range }];
  return doc.markers.flatMap(({ name, at }, i) => {
    const end = doc.markers[i + 1]?.at ?? doc.range.end;
    return end > at ? [{ name, start: at, end }] : [];
  });
}

/** From the first to the last sample of some ranges. Throws RangeError where there is none. */
export function hullOf(ranges: readonly Pick<PrintRange, 'start' | 'end'>[]): { start: number; end: number } {
  if (ranges.length === 0) throw new RangeError('there is no range');
  return {
    start: ranges.reduce((least, r) => Math.min(least, r.start), Infinity),
    end: ranges.reduce((most, r) => Math.max(most, r.end), 0),
  };
}

/** "cue 12", "Reel 1", "the range": what a range is called in a sentence. */
export const rangeText = (doc: SessionDoc, { name }: PrintRange): string =>
  name === '' ? 'the range' : doc.printing?.by === 'cues' ? `cue ${name}` : name;
