import { describe, expect, it } from 'vitest';
import { applied, monoTrack, sessionWith, take } from '../../../tests/support/session';
import { cueOfStretch, recordPlan, shortTakeText, takeNames, takeText, type EditJson, type SessionDoc } from '.';

const cue = (n: string, start: number, end: number) => ({
  id: `q${n}`,
  number: n,
  start,
  end,
  character: 'Pilot',
  text: '',
});
const doc = sessionWith(monoTrack('a', 'Pilot'), {
  type: 'addCues',
  cues: [cue('12', 10_000, 20_000), cue('12a', 30_000, 34_000)],
});
const forCue = (id: string, q: string): EditJson => ({ type: 'setTake', track: 'a', take: id, cue: q });

describe('a take is called', () => {
  const full = applied(
    doc,
    ...['t1', 't2', 't3', 't4', 't5'].map((id) => take(id, 'a', 0, 1000)),
    forCue('t1', 'q12'),
    forCue('t3', 'q12a'),
    forCue('t4', 'q12'),
  );
  const track = full.tracks[0]!;
  it('by its cue and its number among those of the cue, else by its number on the track', () => {
    expect(track.takes.map((t) => takeText(full, track, t))).toEqual([
      'cue 12, take 1',
      'take 2',
      'cue 12a, take 1',
      'cue 12, take 2',
      'take 5',
    ]);
    expect(track.takes.map((t) => shortTakeText(takeNames(full, track).get(t.id)))).toEqual([
      '12·1',
      '2',
      '12a·1',
      '12·2',
      '5',
    ]);
  });
  it('by its number when its cue is gone', () => {
    const gone = applied(full, { type: 'removeCues', cues: ['q12'] });
    expect(takeText(gone, gone.tracks[0]!, gone.tracks[0]!.takes[3]!)).toBe('take 4');
  });
});

describe('a stretch is about', () => {
  it.each<[string, number, number, string | undefined]>([
    ['the cue that it holds', 5_000, 25_000, 'q12'],
    ['the cue that it lies in', 12_000, 14_000, 'q12'],
    ['the one that it holds more of', 10_000, 34_000, 'q12'],
    ['none, where it only touches one', 19_500, 29_000, undefined],
    ['none, between two', 21_000, 29_000, undefined],
  ])('%s', (_, start, end, id) => expect(cueOfStretch(doc, start, end)?.id).toBe(id));

  const plan = (mode: 'free' | 'range' | 'loop' | 'cue', on: SessionDoc = doc) =>
    recordPlan(on, { mode, position: 0, range: { start: 9_000, end: 21_000 }, cue: on.cues[1] });
  it('and a pass over it belongs to that cue, round after round', () => {
    expect(plan('range').cue).toBe('q12');
    expect(plan('loop').cue).toBe('q12');
    expect(plan('cue').cue).toBe('q12a');
    expect(plan('free').cue).toBeNull();
  });
});
