// A frozen track gives what its clips and chain give, and gives those again as soon as they change.
import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { samplesOf } from '../../../tests/support/files';
import { printed, readerOf } from '../../../tests/support/printed';
import { applied, mono, monoTrack, sessionWith } from '../../../tests/support/session';
import { freshOf, frozenFrom, isFresh, playedOf, trackOf, type EditJson, type SessionDoc } from '@/core/session';
import { beforePrinting, missingCheck } from '@/core/checks';
import { frozenSpan, renderNode } from '.';
import { MemorySource } from '../../../tests/support/memorySource';

const k = newKernels();
const FRAMES = 40_000;
const sounds: Record<string, Float32Array[]> = { voice: [noise(FRAMES, 0.4, 3)], other: [noise(FRAMES, 0.3, 5)] };
const a = { kind: 'track', id: 'a' } as const;

/** A track with a chain that looks ahead, a lane on one of its values, a level, a send and a room beside it. */
const session = (...edits: EditJson[]): SessionDoc =>
  sessionWith(
    monoTrack('a', 'Narrator'),
    monoTrack('b', 'Boat'),
    { type: 'addClip', id: 'c', track: 'a', start: 5_000, media: mono('voice', FRAMES) },
    { type: 'addClip', id: 'd', track: 'b', start: 0, media: mono('other', FRAMES) },
    { type: 'addStage', owner: a, id: 'cut', stage: 'lowCut' },
    { type: 'addStage', owner: a, id: 'comp', stage: 'compressor' },
    { type: 'addStage', owner: a, id: 'lim', stage: 'limiter' },
    { type: 'switchStage', owner: a, stage: 'comp', on: true },
    {
      type: 'writeLane',
      target: { node: 'a', stage: 'cut', param: 'frequency' },
      from: 0,
      to: 60_000,
      points: [
        { at: 0, value: 80, shape: 'line' },
        { at: 30_000, value: 250, shape: 'step' },
      ],
    },
    { type: 'setTrack', track: 'a', level: -4 },
    ...edits,
  );

async function frozen(doc: SessionDoc): Promise<{ doc: SessionDoc; sound: Float32Array }> {
  const { start, frames } = frozenSpan(doc, 'a');
  const sound = new Float32Array(frames);
  let at = 0;
  await renderNode(k, doc, 'a', readerOf(sounds), async (set, from, n) => {
    sound.set(set.view(0).subarray(from, from + n), at);
    at += n;
  });
  expect(at).toBe(frames);
  sounds['frozen-a'] = [sound];
  const freeze: EditJson = {
    type: 'freezeTrack',
    track: 'a',
    media: mono('frozen-a', frames),
    start,
    from: frozenFrom(doc, trackOf(doc, 'a')),
  };
  return { doc: applied(doc, freeze), sound };
}

/** The printed files, by deliverable. */
const files = async (doc: SessionDoc, parts = 1): Promise<Map<string, Uint8Array>> =>
  (await printed(k, doc, readerOf(sounds), { end: 60_000, parts })).bytes;

function expectSame(one: Map<string, Uint8Array>, other: Map<string, Uint8Array>): void {
  expect([...one.keys()].sort()).toEqual([...other.keys()].sort());
  for (const [id, bytes] of one) expect(Buffer.compare(bytes, other.get(id)!), id).toBe(0);
}

describe('a frozen track', () => {
  it('prints the same bits as its clips and chain, in every file', async () => {
    const thawed = session();
    const { doc } = await frozen(thawed);
    expect([...freshOf(doc).keys()]).toEqual(['a']);
    expect(trackOf(playedOf(doc), 'a')).toMatchObject({ chain: [], clips: [{ media: 'frozen-a', start: 5_000 }] });
    const [live, ice] = [await files(thawed), await files(doc)];
    expectSame(ice, live);
    // And so do several threads.
    expectSame(await files(doc, 2), live);
    const dialogue = await samplesOf(k, new MemorySource(live.get('print-dia')!));
    expect(dialogue.some((c) => c.some((v) => Math.abs(v) > 0.01))).toBe(true);
  });
  it('that begins late gives the same within -140 dBFS', async () => {
    const moved: EditJson = { type: 'moveClip', clip: 'c', start: 600_000 };
    const { doc } = await frozen(session(moved));
    const until = async (d: SessionDoc) => {
      const { of } = await printed(k, d, readerOf(sounds), { start: 550_000, end: 660_000 });
      return samplesOf(k, of('dia'));
    };
    const [live, ice] = [await until(session(moved)), await until(doc)];
    const apart = live.map((c, i) => c.reduce((most, v, n) => Math.max(most, Math.abs(v - ice[i]![n]!)), 0));
    expect(Math.max(...apart)).toBeLessThanOrEqual(1e-7);
  });
  it('stands where the chain’s delay is taken out, and is as long as its tail', () => {
    expect(frozenSpan(session(), 'a')).toEqual({ start: 5_000, frames: FRAMES + 48_000 });
    const room = session({ type: 'addStage', owner: a, id: 'room', stage: 'reverb' });
    expect(frozenSpan(room, 'a').frames).toBeGreaterThan(FRAMES + 48_000);
    const longer = applied(room, {
      type: 'writeLane',
      target: { node: 'a', stage: 'room', param: 'decay' },
      from: 0,
      to: 60_000,
      points: [{ at: 10_000, value: 6, shape: 'step' }],
    });
    expect(frozenSpan(longer, 'a').frames).toBeGreaterThanOrEqual(FRAMES + 48_000 * (1 + (6 * 140) / 60));
  });
  it('holds the whole tail of a room: what comes after it is below -140 dBFS', async () => {
    const room = session({ type: 'addStage', owner: a, id: 'room', stage: 'reverb' });
    const { doc, sound } = await frozen(room);
    const last = sound.subarray(-480);
    expect(last.reduce((most, v) => Math.max(most, Math.abs(v)), 0)).toBeLessThanOrEqual(1e-7);
    // It does sound on after the clip, or this proves nothing.
    expect(sound.subarray(FRAMES, FRAMES + 4_800).some((v) => Math.abs(v) > 1e-4)).toBe(true);
    expect(doc.media['frozen-a']!.frames).toBe(sound.length);
  });
  it.each([
    ['a clip', { type: 'setClipGain', clip: 'c', gain: -1 }],
    ['a stage’s value', { type: 'setStage', owner: a, stage: 'cut', values: { frequency: 100 } }],
    ['a stage that is bypassed', { type: 'switchStage', owner: a, stage: 'lim', on: false }],
    ['a lane', { type: 'setLane', target: { node: 'a', stage: 'cut', param: 'frequency' }, on: false }],
  ] as [string, EditJson][])('plays from clips and chain once %s is changed, and it is told', async (_, change) => {
    const { doc } = await frozen(session());
    expect(beforePrinting(doc).map((c) => c.id)).not.toContain('frozen/a');
    const changed = applied(doc, change);
    expect(isFresh(changed, trackOf(changed, 'a'))).toBe(false);
    expect(playedOf(changed)).toBe(changed);
    expect(beforePrinting(changed).map((c) => c.id)).toContain('frozen/a');
    expectSame(await files(changed), await files(applied(session(), change)));
  });
  it.each([
    ['its level', { type: 'setTrack', track: 'a', level: -9 }],
    ['its name', { type: 'setTrack', track: 'a', name: 'Iris' }],
    ['the name of a clip', { type: 'shapeClip', clip: 'c', name: 'Tide' }],
  ] as [string, EditJson][])('stays frozen when %s is changed', async (_, change) => {
    const { doc } = await frozen(session());
    const changed = applied(doc, change);
    expect(isFresh(changed, trackOf(changed, 'a'))).toBe(true);
  });
  it('is fresh again when the change is taken back', async () => {
    const { doc } = await frozen(session());
    const there = applied(doc, { type: 'setClipGain', clip: 'c', gain: -1 });
    const back = applied(there, { type: 'setClipGain', clip: 'c', gain: 0 });
    expect(isFresh(back, trackOf(back, 'a'))).toBe(true);
  });
  it('is the same in whatever order a database gives the members of objects', async () => {
    const { doc } = await frozen(session());
    const turned = <T>(x: T): T =>
      Array.isArray(x)
        ? (x.map(turned) as T)
        : x && typeof x === 'object'
          ? (Object.fromEntries(
              Object.entries(x)
                .reverse()
                .map(([key, value]) => [key, turned(value)]),
            ) as T)
          : x;
    const other = turned(doc);
    expect(JSON.stringify(other)).not.toBe(JSON.stringify(doc));
    expect(isFresh(other, trackOf(other, 'a'))).toBe(true);
  });
  it('whose file is gone is told with what to do', async () => {
    const { doc } = await frozen(session());
    const [check] = missingCheck(doc, { missing: ['frozen-a'] } as never);
    expect(check!.mends.map((m) => m.label)).toEqual(['Thaw Narrator']);
    // Files that only its clips use are not missed meanwhile.
    expect(missingCheck(doc, { missing: ['voice'] } as never)).toEqual([]);
  });
});

describe('freezing is refused', () => {
  const freeze = (doc: SessionDoc, part: object = {}) =>
    applied(doc, {
      type: 'freezeTrack',
      track: 'a',
      media: mono('frozen-a', 90_000),
      start: 5_000,
      from: frozenFrom(doc, trackOf(doc, 'a')),
      ...part,
    });
  it('where something was changed meanwhile', () => {
    expect(() => freeze(session(), { from: 1 })).toThrow(/changed while it was being frozen.*freeze it again/);
  });
  it('without clips', () => {
    expect(() => freeze(session({ type: 'removeClip', clip: 'c' }))).toThrow(/no clip that sounds/);
  });
  it('where a stage listens to another sound', () => {
    const keyed = session({ type: 'setStageKey', owner: a, stage: 'comp', key: 'b' });
    expect(() => freeze(keyed)).toThrow(/listens to another sound/);
  });
  it('where a send takes the sound before the chain', () => {
    const early = session(
      {
        type: 'addTracks',
        tracks: [{ id: 'hall', name: 'Hall', layout: 'stereo', kind: 'return', destination: 'amb' }],
      },
      { type: 'addSend', owner: 'a', id: 's', to: 'hall', tap: 'arriving' },
    );
    expect(() => freeze(early)).toThrow(/sent to Hall from before its chain/);
  });
  it('with a file that does not fit', () => {
    expect(() => freeze(session(), { media: { ...mono('frozen-a', 90_000), channels: 2 } })).toThrow(/does not fit/);
  });
});
