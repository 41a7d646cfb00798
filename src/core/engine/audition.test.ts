import { describe, expect, it } from 'vitest';
import { newKernels } from '../../../tests/support/kernels';
import { applied, mono, monoTrack, sessionWith } from '../../../tests/support/session';
import { recordPlan } from '@/core/session';
import { auditionSound } from '@/core/signals';
import { AUDITION, auditionsFor, beatsIn, compilePlan, itemsIn, itemsRolled } from '.';

const k = newKernels();
const RATE = 48_000;
const doc = sessionWith(monoTrack('a'));
const plan = (from: number, part = {}) => ({
  ...recordPlan(doc, { mode: 'free', position: from, range: { start: 0, end: 1 } }),
  ...part,
});

describe('beats', () => {
  it('fall on the tempo map, bars with an accent', () => {
    // 120 beats a minute in 4/4: a beat every half second.
    const beats = beatsIn(doc, 0, 2.25 * RATE);
    expect(beats.map((b) => b.sample)).toEqual([0, 24_000, 48_000, 72_000, 96_000]);
    expect(beats.map((b) => b.accent)).toEqual([true, false, false, false, true]);
  });
  it('go by the note value of the metre, also before the start', () => {
    const six = applied(doc, {
      type: 'setTempo',
      tempos: [{ beat: 0, tempo: 60, glides: false }],
      meters: [{ bar: 1, beats: 6, value: 8 }],
    });
    expect(beatsIn(six, -RATE, RATE).map((b) => b.sample)).toEqual([-48_000, -24_000, 0, 24_000]);
  });
});

describe('what is heard beside the tracks', () => {
  const at = (d: typeof doc, p: ReturnType<typeof plan>, recording: boolean) =>
    auditionsFor(d, p, recording).map((a) => [a.at, a.sound]);
  it('nothing unless asked', () => {
    expect(at(doc, plan(0), true)).toEqual([]);
  });
  it('clicks while recording only, or always', () => {
    const some = applied(doc, { type: 'setWork', click: 'recording', clickSound: 'wood' });
    const short = plan(0, { end: RATE });
    expect(at(some, short, false)).toEqual([]);
    expect(at(some, short, true)).toEqual([
      [0, 'wood'],
      [24_000, 'wood'],
    ]);
    expect(at(applied(doc, { type: 'setWork', click: 'always' }), short, false)).toHaveLength(2);
  });
  it('the count-in clicks even when the click is off, and stops where recording begins', () => {
    const counted = applied(doc, { type: 'setWork', countIn: 1 });
    const led = recordPlan(counted, { mode: 'free', position: 10 * RATE, range: { start: 0, end: 1 } });
    expect(at(counted, led, true)).toEqual([0, 24_000, 48_000, 72_000].map((s) => [s, 'tick']));
    expect(at(counted, led, false)).toEqual([]);
  });
  it('beeps before a cue, counted from where rolling begins', () => {
    expect(at(doc, plan(5_000, { beeps: [9_000, 10_000] }), true)).toEqual([
      [4_000, 'beep'],
      [5_000, 'beep'],
    ]);
  });
  it('a loop repeats its clicks round by round', () => {
    const always = applied(doc, { type: 'setWork', click: 'always' });
    const round = plan(0, { in: 48_000, out: 96_000, loop: true });
    expect(
      at(always, round, true)
        .slice(0, 8)
        .map(([s]) => s),
    ).toEqual([0, 24_000, 48_000, 72_000, 96_000, 120_000, 144_000, 168_000]);
  });
  it('leads to the monitor alone, and is in no print', () => {
    const live = compilePlan(k, doc, { mode: 'live' });
    expect(live.nodes.find((n) => n.id === AUDITION)!.links.map((l) => l.to)).toEqual(['monitor']);
    expect(compilePlan(k, doc, { mode: 'print' }).nodes.some((n) => n.id === AUDITION)).toBe(false);
  });
  it.each(['tick', 'wood', 'tone', 'beep'] as const)(
    'a %s begins and ends in silence and stays under full scale',
    (s) => {
      const samples = auditionSound(k, s, true, RATE);
      expect(Math.max(...samples.map(Math.abs))).toBeLessThanOrEqual(1);
      expect(Math.max(...samples.map(Math.abs))).toBeGreaterThan(0.5);
      expect(Math.abs(samples.at(-1)!)).toBeLessThan(0.02);
    },
  );
});

describe('clips in a loop', () => {
  const track = sessionWith(monoTrack('a'), { type: 'addClip', id: 'c', track: 'a', start: 0, media: mono('m', 9_000) })
    .tracks[0]!;
  const loop = { start: 2_000, end: 5_000 };
  it('go round without a gap, to the sample', () => {
    const spans = itemsRolled(track, 1_000, 3_000, 4_000, loop).map((i) => [i.from, i.at, i.frames]);
    expect(spans).toEqual([
      [4_000, 0, 1_000],
      [2_000, 1_000, 3_000],
    ]);
  });
  it('are those of the plain timeline where nothing goes round', () => {
    expect(itemsRolled(track, 1_000, 500, 700, null)).toEqual(itemsIn(track, 1_500, 700));
  });
});
