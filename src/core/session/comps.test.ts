import { describe, expect, it } from 'vitest';
import { applied, mono, monoTrack, sessionWith, take } from '../../../tests/support/session';
import { dryOf, withoutStretch, type EditJson, type SessionDoc } from '.';

const SECOND = 48_000;
const clipsOf = (doc: SessionDoc) =>
  doc.tracks[0]!.clips.map((c) => [c.media, c.start, c.offset, c.length, c.joint?.frames ?? 0]);
/** Three takes of ten seconds from second 10 on. */
const takes = sessionWith(
  monoTrack('a', 'Pilot'),
  ...[1, 2, 3].map((n) => take(`t${n}`, 'a', 10 * SECOND, 10 * SECOND)),
);
const choose = (n: number, from: number, to: number, id = `x${n}-${from}`) => ({
  type: 'compRange' as const,
  track: 'a',
  take: `t${n}`,
  start: from * SECOND,
  end: to * SECOND,
  id,
});

describe('a comp', () => {
  it('begins with the newest take', () => {
    expect(clipsOf(takes)).toEqual([['t3-m', 480_000, 0, 480_000, 0]]);
  });
  it('takes a range of another take to the sample, with the sound in its place and a crossfade at both joints', () => {
    expect(clipsOf(applied(takes, choose(1, 12, 15)))).toEqual([
      ['t3-m', 480_000, 0, 96_000, 0],
      ['t1-m', 576_000, 96_000, 144_000, 480],
      ['t3-m', 720_000, 240_000, 240_000, 480],
    ]);
  });
  it('is chosen again and again; what a choice covered comes back unharmed', () => {
    const one = applied(takes, choose(1, 12, 15), choose(2, 11, 16), choose(3, 10, 20));
    expect(clipsOf(one)).toEqual([['t3-m', 480_000, 0, 480_000, 0]]);
    expect(one.tracks[0]!.takes).toEqual(takes.tracks[0]!.takes);
  });
  it('a range that goes beyond the take is taken as far as there is sound', () => {
    expect(clipsOf(applied(takes, choose(2, 5, 11)))[0]).toEqual(['t2-m', 480_000, 0, 48_000, 0]);
    expect(() => applied(takes, choose(2, 1, 3))).toThrow('Take 2 has no sound in that range.');
  });
  it('its joints are moved; both takes keep their sound in place', () => {
    const doc = applied(takes, choose(1, 12, 15, 'x'), { type: 'moveJoint', clip: 'x', at: 13 * SECOND });
    expect(clipsOf(doc).slice(0, 2)).toEqual([
      ['t3-m', 480_000, 0, 144_000, 0],
      ['t1-m', 624_000, 144_000, 96_000, 480],
    ]);
    expect(() => applied(takes, choose(1, 12, 15, 'x'), { type: 'moveJoint', clip: 'x', at: 16 * SECOND })).toThrow(
      /would vanish/,
    );
  });
  it('several stand beside each other, none is lost', () => {
    const first = applied(takes, choose(1, 12, 15));
    const second = applied(
      first,
      { type: 'newComp', track: 'a', id: 'k', name: 'Drier', begin: 'empty' },
      choose(2, 10, 12),
    );
    expect(second.tracks[0]!.compName).toBe('Drier');
    expect(clipsOf(second)).toHaveLength(1);
    const back = applied(second, { type: 'chooseComp', track: 'a', comp: 'k' });
    expect(clipsOf(back)).toEqual(clipsOf(first));
    expect(back.tracks[0]).toMatchObject({ compName: 'Comp 1', otherComps: [{ id: 'k', name: 'Drier' }] });
    expect(clipsOf(applied(back, { type: 'chooseComp', track: 'a', comp: 'k' }))).toEqual(clipsOf(second));
  });
  it('on a musical track goes with the music, shown or not, and what is crossfaded stays together', () => {
    const doc = applied(
      takes,
      { type: 'setTrack', track: 'a', anchor: 'music' },
      choose(1, 12, 15),
      { type: 'newComp', track: 'a', id: 'k', name: 'Drier', begin: 'empty' },
      choose(2, 10, 12),
      // From 120 to 60 bpm: every beat comes at twice its time.
      {
        type: 'setTempo',
        tempos: [{ beat: 0, tempo: 60, glides: false }],
        meters: [{ bar: 1, beats: 4, value: 4 }],
      },
    );
    expect(clipsOf(doc)).toEqual([['t2-m', 960_000, 0, 96_000, 0]]);
    expect(clipsOf(applied(doc, { type: 'chooseComp', track: 'a', comp: 'k' }))).toEqual([
      ['t3-m', 960_000, 0, 96_000, 0],
      ['t1-m', 1_056_000, 96_000, 144_000, 480],
      ['t3-m', 1_200_000, 240_000, 240_000, 480],
    ]);
  });
});

describe('a punch', () => {
  const punch = (doc: SessionDoc, start: number, end: number, handle = 12_000) =>
    applied(doc, {
      ...take('t4', 'a', start - handle, end - start + 2 * handle),
      show: { start, end },
    } as never);
  it('replaces its range to the sample and crossfades into what was there, with the sound recorded around it', () => {
    expect(clipsOf(punch(takes, 600_000, 700_000))).toEqual([
      ['t3-m', 480_000, 0, 120_000, 0],
      ['t4-m', 600_000, 12_000, 100_000, 480],
      ['t3-m', 700_000, 220_000, 260_000, 480],
    ]);
  });
  it('that was stopped early shows what there is', () => {
    const doc = applied(takes, {
      ...take('t4', 'a', 588_000, 50_000),
      show: { start: 600_000, end: 700_000 },
    } as never);
    expect(clipsOf(doc)[1]).toEqual(['t4-m', 600_000, 12_000, 38_000, 480]);
  });
  it('that ended before its range began is kept as a take and not heard', () => {
    const doc = applied(takes, { ...take('t4', 'a', 588_000, 9_000), show: { start: 600_000, end: 700_000 } } as never);
    expect(clipsOf(doc)).toEqual(clipsOf(takes));
    expect(doc.tracks[0]!.takes).toHaveLength(4);
  });
  it('under a locked clip is kept as a take, and never refused', () => {
    const locked = applied(takes, { type: 'shapeClip', clip: 'clip-t3', locked: true });
    const doc = punch(locked, 600_000, 700_000);
    expect(clipsOf(doc)).toEqual(clipsOf(takes));
    expect(doc.tracks[0]!.takes).toHaveLength(4);
  });
});

describe('clips', () => {
  const doc = sessionWith(monoTrack('a'), monoTrack('b'), take('t1', 'a', 0, 10 * SECOND), take('t2', 'b', 0, SECOND));
  const clip = 'clip-t1';
  it('a clip that is placed last is heard; the other gives way and keeps its sound', () => {
    const over = applied(doc, { type: 'moveClips', clips: ['clip-t2'], by: 3 * SECOND, rows: -1 });
    expect(clipsOf(over)).toEqual([
      ['t1-m', 0, 0, 144_000, 0],
      ['t2-m', 144_000, 0, 48_000, 0],
      ['t1-m', 192_000, 192_000, 288_000, 0],
    ]);
    const back = applied(
      over,
      { type: 'moveClips', clips: ['clip-t2'], by: 0, rows: 1 },
      { type: 'trimClip', clip, start: 0, length: 192_000 },
    );
    expect(clipsOf(back)).toEqual([
      ['t1-m', 0, 0, 192_000, 0],
      ['t1-m', 192_000, 192_000, 288_000, 0],
    ]);
  });
  it('split, slip and repeat count in samples', () => {
    const split = applied(doc, { type: 'splitClip', clip, at: 100_001, id: 's' });
    expect(clipsOf(split)).toEqual([
      ['t1-m', 0, 0, 100_001, 0],
      ['t1-m', 100_001, 100_001, 379_999, 0],
    ]);
    expect(clipsOf(applied(split, { type: 'slipClip', clip: 's', by: 7 }))[1]).toEqual([
      't1-m',
      100_001,
      99_994,
      379_999,
      0,
    ]);
    expect(() => applied(split, { type: 'slipClip', clip, by: 1 })).toThrow(/no more sound/);
    const four = applied(doc, { type: 'repeatClip', clip: 'clip-t2', times: 3, id: 'r' });
    expect(four.tracks[1]!.clips.map((c) => c.start)).toEqual([0, 48_000, 96_000, 144_000]);
  });
  it('a locked clip neither moves, nor changes, nor gives way', () => {
    const locked = applied(doc, { type: 'shapeClip', clip, locked: true });
    expect(() => applied(locked, { type: 'moveClips', clips: [clip], by: 1 })).toThrow(/locked/);
    expect(() => applied(locked, { type: 'setClipGain', clip, gain: -1 })).toThrow(/locked/);
    expect(() => applied(locked, { type: 'removeClips', clips: [clip] })).toThrow(/locked/);
    expect(() => applied(locked, { type: 'moveClips', clips: ['clip-t2'], by: 0, rows: -1 })).toThrow(/locked/);
    expect(clipsOf(applied(locked, { type: 'shapeClip', clip, locked: false }))).toEqual(clipsOf(doc));
  });
  it('of many, one that is locked or gone, or whose gain would leave its limits, is named and none is changed', () => {
    const both = [clip, 'clip-t2'];
    const locked = applied(doc, { type: 'shapeClip', clip, locked: true });
    const louder: EditJson = { type: 'shapeClips', clips: both, gainBy: -6, muted: true };
    expect(() => applied(locked, louder)).toThrow(/is locked; unlock it first/);
    expect(() => applied(doc, { type: 'shapeClips', clips: [clip, 'nobody'], muted: true })).toThrow(
      /not in the session/,
    );
    expect(() => applied(doc, { type: 'shapeClips', clips: both, gainBy: 30 })).toThrow(/gain of 30 dB; it goes from/);
    const set = applied(doc, louder);
    expect(set.tracks.map((t) => [t.clips[0]!.gain, t.clips[0]!.muted])).toEqual([
      [-6, true],
      [-6, true],
    ]);
  });
  it('moved together they do not cut each other', () => {
    const split = applied(doc, { type: 'splitClip', clip, at: 100_000, id: 's' });
    const moved = applied(split, { type: 'moveClips', clips: [clip, 's'], by: 50_000 });
    expect(clipsOf(moved)).toEqual([
      ['t1-m', 50_000, 0, 100_000, 0],
      ['t1-m', 150_000, 100_000, 380_000, 0],
    ]);
  });
  it('a crossfade is no longer than the sound beyond the joint, and goes with the joint', () => {
    const split = applied(doc, { type: 'splitClip', clip, at: 400, id: 's' });
    const joined = applied(split, { type: 'shapeClip', clip: 's', joint: { frames: 4_800, curve: 'even' } });
    // The left clip is 400 frames long: no crossfade eats more than a whole clip.
    expect(joined.tracks[0]!.clips[1]!.joint).toEqual({ frames: 400, curve: 'even', same: true });
    const apart = applied(joined, { type: 'moveClips', clips: ['s'], by: 10 });
    expect(apart.tracks[0]!.clips[1]!.joint).toBeUndefined();
    expect(() => applied(doc, { type: 'shapeClip', clip, joint: { frames: 10, curve: 'even' } })).toThrow(
      /No clip ends/,
    );
  });
  it('the law of a crossfade follows what meets there', () => {
    // Two takes that differ: equal power. Once one take stands on both sides its sound is the same: equal gain.
    const range = (id: string, take: string, start: number, end: number): EditJson => ({
      type: 'compRange',
      track: doc.tracks[0]!.id,
      take,
      start,
      end,
      id,
      curve: 'power',
    });
    const two = applied(doc, take('t9', doc.tracks[0]!.id, 0, 480_000), range('x', 't1', 100_000, 200_000));
    const laws = (d: SessionDoc) => d.tracks[0]!.clips.map((c) => c.joint?.curve ?? null);
    expect(laws(two)).toEqual([null, 'power', 'power']);
    const back = applied(two, range('y', 't9', 100_000, 200_000));
    expect(laws(back)).toEqual([null, 'even', 'even']);
    expect(laws(applied(back, range('z', 't1', 150_000, 200_000)))).toEqual([null, 'even', 'power', 'power']);
  });
  it('a file that is recorded over stays among the takes, where it lay', () => {
    const track = doc.tracks[0]!.id;
    const file = applied(
      doc,
      { type: 'removeClip', clip },
      {
        type: 'addClip',
        id: 'imp',
        track,
        start: 5_000,
        media: { ...mono('voice', 60_000), name: 'Voice memo.wav' },
      },
    );
    const over = applied(file, take('t8', track, 0, 480_000));
    expect(over.tracks[0]!.clips.map((c) => c.media)).toEqual(['t8-m']);
    const kept = over.tracks[0]!.takes.find((t) => t.imported);
    expect(kept).toMatchObject({ media: 'voice', start: 5_000, length: 60_000, note: 'Voice memo.wav' });
    const again = applied(over, { type: 'compRange', track, take: kept!.id, start: 5_000, end: 65_000, id: 'back' });
    expect(again.tracks[0]!.clips.map((c) => c.media)).toEqual(['t8-m', 'voice', 't8-m']);
    // Recorded over once more it does not come twice.
    expect(applied(again, take('t7', track, 0, 480_000)).tracks[0]!.takes.filter((t) => t.imported)).toHaveLength(1);
  });
  it('of a take knows its untouched copy, sample for sample', () => {
    const track = doc.tracks[0]!.id;
    const withDry = applied(doc, {
      ...take('t6', track, 0, 1_000),
      dry: { ...mono('t6-dry', 1_000, 'dry') },
    } as EditJson);
    expect(dryOf(withDry, withDry.tracks[0]!.clips[0]!)).toBe('t6-dry');
    expect(dryOf(doc, doc.tracks[0]!.clips[0]!)).toBeNull();
  });
  it('a stretch is left out to the sample, also an endless one', () => {
    const { clips } = doc.tracks[0]!;
    const left = (start: number, end: number) =>
      withoutStretch(clips, start, end).map((c) => [c.start, c.offset, c.length]);
    expect(left(1_000, 2_000)).toEqual([
      [0, 0, 1_000],
      [2_000, 2_000, 478_000],
    ]);
    expect(left(1_000, Infinity)).toEqual([[0, 0, 1_000]]);
    expect(left(0, Infinity)).toEqual([]);
  });
});
