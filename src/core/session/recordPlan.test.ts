import { describe, expect, it } from 'vitest';
import { applied, monoTrack, sessionWith, take } from '../../../tests/support/session';
import { cueAt, cueState, recordPlan, rollBackPlan, rolledTo, type EditJson } from '.';

const RATE = 48_000;
const cue = (id: string, start: number, end: number) => ({
  id,
  number: id,
  start: start * RATE,
  end: end * RATE,
  character: 'Pilot',
  text: 'Light on the starboard bow.',
});
const doc = sessionWith(monoTrack('a'), { type: 'addCues', cues: [cue('2', 30, 33), cue('1', 20, 24)] });
const range = { start: 10 * RATE, end: 14 * RATE };
const plan = (part: Partial<Parameters<typeof recordPlan>[1]>, ...edits: EditJson[]) =>
  recordPlan(applied(doc, ...edits), { mode: 'free', position: 5 * RATE, range, ...part });

describe('what is recorded', () => {
  it('free: from the playhead until stopped', () => {
    expect(plan({})).toMatchObject({ from: 240_000, in: 240_000, out: null, end: null, beeps: [] });
  });
  it('range: exactly the range, with pre-roll and post-roll', () => {
    expect(plan({ mode: 'range' })).toMatchObject({ from: 336_000, in: 480_000, out: 672_000, end: 720_000 });
    const longer = plan({ mode: 'range' }, { type: 'setSession', preRoll: 5, postRoll: 2 });
    expect(longer).toMatchObject({ from: 240_000, end: 768_000 });
  });
  it('cue: three beeps a second apart, the line where the fourth would be, and time to hear the first', () => {
    const found = plan({ mode: 'cue', cue: doc.cues[0] }, { type: 'setSession', preRoll: 1 });
    expect(found).toMatchObject({ in: 960_000, out: 1_152_000, cue: '1' });
    expect(found.beeps).toEqual([816_000, 864_000, 912_000]);
    expect(found.from).toBe(816_000 - 24_000);
  });
  it('cue: the beeps go by the set gap, or are left out', () => {
    expect(plan({ mode: 'cue', cue: doc.cues[0] }, { type: 'setWork', beepGap: 0.5 }).beeps).toEqual([
      888_000, 912_000, 936_000,
    ]);
    expect(plan({ mode: 'cue', cue: doc.cues[0] }, { type: 'setWork', beeps: false }).beeps).toEqual([]);
  });
  it('loop: round and round, and no end by itself', () => {
    expect(plan({ mode: 'loop' })).toMatchObject({ in: 480_000, out: 672_000, end: null, loop: true });
  });
  it('count-in: whole bars by the metre and tempo at that place', () => {
    // 4/4 at 120: a bar is two seconds. 3/4 at 90: a bar is two seconds again, two of them are four.
    expect(plan({}, { type: 'setWork', countIn: 1 }).from).toBe(240_000 - 96_000);
    const waltz: EditJson = {
      type: 'setTempo',
      tempos: [{ beat: 0, tempo: 90, glides: false }],
      meters: [{ bar: 1, beats: 3, value: 4 }],
    };
    expect(plan({}, waltz, { type: 'setWork', countIn: 2 }).from).toBe(240_000 - 4 * RATE);
  });
  it('count-in at the very start reaches before it', () => {
    expect(plan({ position: 0 }, { type: 'setWork', countIn: 1 }).from).toBe(-96_000);
  });
  it('back from a mistake: recorded from before it, after a pre-roll, never before the take began', () => {
    expect(rollBackPlan(doc, 20 * RATE, 12 * RATE)).toMatchObject({ from: 14 * RATE, in: 17 * RATE, out: null });
    expect(rollBackPlan(doc, 13 * RATE, 12 * RATE).in).toBe(12 * RATE);
  });
});

describe('the place on the timeline', () => {
  const loop = { start: 1_000, end: 1_500 };
  it.each([
    [0, null, 900],
    [700, null, 1_600],
    [599, loop, 1_499],
    [600, loop, 1_000],
    [1_099, loop, 1_499],
    [1_100, loop, 1_000],
    [2_350, loop, 1_250],
  ])('after %d samples with loop %j is %d', (rolled, round, at) => {
    expect(rolledTo(900, rolled, round)).toBe(at);
  });
});

describe('cues', () => {
  it('stand in order of their starts', () => {
    expect(doc.cues.map((c) => c.id)).toEqual(['1', '2']);
  });
  it('are found by the playhead: the one that runs, or the next', () => {
    expect([0, 21, 25, 40].map((s) => cueAt(doc, s * RATE)?.id)).toEqual(['1', '1', '2', undefined]);
  });
  it('come on by their takes', () => {
    const one = doc.cues[0]!;
    const recorded = applied(doc, { ...take('t1', 'a', 0, 48_000), cue: '1' } as never);
    const circled = applied(recorded, { type: 'setTake', track: 'a', take: 't1', circled: true });
    const done = applied(circled, { type: 'setCue', cue: '1', done: true });
    expect([doc, recorded, circled].map((d) => cueState(d, one))).toEqual(['open', 'recorded', 'circled']);
    expect(cueState(done, done.cues[0]!)).toBe('done');
    expect(cueState(circled, doc.cues[1]!)).toBe('open');
  });
  it('that end before they start are refused', () => {
    expect(() => applied(doc, { type: 'setCue', cue: '1', end: 19 * RATE })).toThrow(/would end before/);
    expect(() => applied(doc, { type: 'addCues', cues: [cue('3', 9, 8)] })).toThrow(/Cue 3 ends before/);
  });
});
