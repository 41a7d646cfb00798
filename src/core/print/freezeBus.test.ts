// A frozen bus gives what comes to it through its chain, lets rest what only it hears, and gives way to any change of it.
import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { samplesOf } from '../../../tests/support/files';
import { printed, readerOf } from '../../../tests/support/printed';
import { applied, mono, monoTrack, sessionWith } from '../../../tests/support/session';
import { compilePlan } from '@/core/engine';
import {
  busOf,
  freezeFault,
  freshOf,
  frozenFrom,
  frozenSource,
  isBus,
  isFresh,
  nodeOf,
  playedOf,
  type EditJson,
  type SessionDoc,
} from '@/core/session';
import { FRONT, widthOf } from '@/core/speakers';
import { beforePrinting, missingCheck } from '@/core/checks';
import { frozenSpan, renderNode } from '.';
import { MemorySource } from '../../../tests/support/memorySource';

const k = newKernels();
const FRAMES = 40_000;
const sounds: Record<string, Float32Array[]> = {
  gulls: [noise(FRAMES, 0.4, 3)],
  ropes: [noise(FRAMES, 0.3, 5)],
  voice: [noise(FRAMES, 0.3, 7)],
};
const harbour = { kind: 'bus', id: 'harbour' } as const;

/** Two tracks in a group with a chain below the effects, one of them also in a room; a voice beside them in that room. */
const session = (...edits: EditJson[]): SessionDoc =>
  sessionWith(
    monoTrack('g', 'Gulls'),
    monoTrack('r', 'Ropes'),
    monoTrack('v', 'Narrator'),
    { type: 'addBus', id: 'harbour', name: 'Harbour', kind: 'bus', layout: 'stereo' },
    { type: 'addBus', id: 'air', name: 'Air', kind: 'return', layout: 'stereo' },
    { type: 'sendBus', bus: 'harbour', destination: 'efx' },
    { type: 'sendBus', bus: 'air', destination: 'efx' },
    { type: 'sendTracks', tracks: ['g', 'r'], destination: 'harbour' },
    { type: 'addClip', id: 'cg', track: 'g', start: 5_000, media: mono('gulls', FRAMES) },
    { type: 'addClip', id: 'cr', track: 'r', start: 0, media: mono('ropes', FRAMES) },
    { type: 'addClip', id: 'cv', track: 'v', start: 0, media: mono('voice', FRAMES) },
    { type: 'placeTrack', track: 'g', placement: { ...FRONT, azimuth: 20 } },
    { type: 'setTrack', track: 'r', level: -4 },
    { type: 'addStage', owner: { kind: 'track', id: 'g' }, id: 'look', stage: 'limiter' },
    { type: 'addStage', owner: harbour, id: 'comp', stage: 'compressor' },
    { type: 'switchStage', owner: harbour, stage: 'comp', on: true },
    { type: 'setBus', bus: 'harbour', trim: -2, level: -3 },
    { type: 'addSend', owner: 'r', id: 's', to: 'air' },
    { type: 'addSend', owner: 'v', id: 't', to: 'air' },
    { type: 'addStage', owner: { kind: 'bus', id: 'air' }, id: 'room', stage: 'reverb' },
    { type: 'setBus', bus: 'air', rooms: 'each stem' },
    ...edits,
  );

async function frozen(doc: SessionDoc, id = 'harbour'): Promise<SessionDoc> {
  const node = nodeOf(doc, id);
  const { start, frames } = frozenSpan(doc, id);
  const sound = Array.from({ length: widthOf(node.layout) }, () => new Float32Array(frames));
  let at = 0;
  const shares: number[] = [];
  await renderNode(
    k,
    doc,
    id,
    readerOf(sounds),
    async (set, from, n) => {
      sound.forEach((c, i) => c.set(set.view(i).subarray(from, from + n), at));
      at += n;
    },
    (share) => shares.push(share),
  );
  expect(at).toBe(frames);
  expect(shares.at(-1)).toBe(1);
  const media = `frozen-${id}`;
  sounds[media] = sound;
  const facts = { media: { ...mono(media, frames), channels: sound.length }, start, from: frozenFrom(doc, node) };
  return applied(
    doc,
    isBus(node) ? { type: 'freezeBus', bus: id, ...facts } : { type: 'freezeTrack', track: id, ...facts },
  );
}

const files = async (doc: SessionDoc, parts = 1): Promise<Map<string, Uint8Array>> =>
  (await printed(k, doc, readerOf(sounds), { end: 60_000, parts })).bytes;

function expectSame(one: Map<string, Uint8Array>, other: Map<string, Uint8Array>): void {
  expect([...one.keys()].sort()).toEqual([...other.keys()].sort());
  for (const [id, bytes] of one) expect(Buffer.compare(bytes, other.get(id)!), id).toBe(0);
}

/** Largest difference of any printed sample, dBFS. */
async function farthest(one: SessionDoc, other: SessionDoc): Promise<number> {
  const [a, b] = [await files(one), await files(other)];
  let most = 0;
  for (const [id, bytes] of a) {
    const [x, y] = await Promise.all([bytes, b.get(id)!].map((f) => samplesOf(k, new MemorySource(f))));
    x!.forEach((c, i) => c.forEach((v, n) => (most = Math.max(most, Math.abs(v - y![i]![n]!)))));
  }
  return 20 * Math.log10(most);
}

describe('a frozen bus', () => {
  it.each(['harbour', 'efx'])('%s prints the same bits as what feeds it, in every file and in parts', async (id) => {
    const live = session();
    const ice = await frozen(live, id);
    expect([...freshOf(ice).keys()]).toEqual([id]);
    const [wanted, got] = [await files(live), await files(ice)];
    expectSame(got, wanted);
    expectSame(await files(ice, 2), wanted);
  });
  it('lets what only it hears rest, and keeps what is heard elsewhere too', async () => {
    const played = playedOf(await frozen(session()));
    const of = (id: string) => played.tracks.find((t) => t.id === id)!;
    expect(of('g')).toMatchObject({ chain: [], clips: [] });
    expect(of('r').clips).toHaveLength(1);
    expect(of(frozenSource('harbour'))).toMatchObject({ destination: 'harbour', clips: [{ start: 0 }] });
    expect(played.buses.find((b) => b.id === 'harbour')).toMatchObject({ chain: [], trim: 0, level: -3 });
    const plan = compilePlan(k, await frozen(session()), { mode: 'print' });
    expect(plan.nodes.filter((n) => n.links.some((l) => l.to === 'harbour')).map((n) => n.id)).toEqual([
      frozenSource('harbour'),
    ]);
  });
  it('a stem that a room with several stems feeds leaves the other stems’ rooms as they were', async () => {
    const ice = await frozen(session(), 'efx');
    const played = playedOf(ice);
    expect(played.tracks.find((t) => t.id === 'g')!.clips).toEqual([]);
    // The narrator’s sound in the room goes on to the dialogue.
    expect(played.buses.find((b) => b.id === 'air')!.chain).toHaveLength(1);
  });
  it('may hold frozen tracks and buses, and is the same', async () => {
    const live = session();
    const nested = await frozen(await frozen(await frozen(live, 'g'), 'harbour'), 'efx');
    expect([...freshOf(nested).keys()].sort()).toEqual(['efx', 'g', 'harbour']);
    // What plays within a file is not read again.
    expect(playedOf(nested).tracks.map((t) => [t.id, t.clips.length])).toEqual([
      ['g', 0],
      ['r', 1],
      ['v', 1],
      [frozenSource('efx'), 1],
    ]);
    // Without the look-ahead of a track, the compressor behind it hears everything 71 samples sooner: it works out its gain
    // every so many samples from where it began, so others than before. On noise that sets in at once it is 50 dB down.
    expect(await farthest(nested, live)).toBeLessThan(-49);
    // Without anything that looks ahead it is the same bits.
    const straight = applied(live, { type: 'removeStage', owner: { kind: 'track', id: 'g' }, stage: 'look' });
    const all = await frozen(await frozen(await frozen(straight, 'g'), 'harbour'), 'efx');
    expectSame(await files(all), await files(straight));
  });
  it.each([
    ['a clip below it', { type: 'setClipGain', clip: 'cr', gain: -1 }],
    ['the level of a track below it', { type: 'setTrack', track: 'r', level: -9 }],
    ['a mute below it', { type: 'setTrack', track: 'g', muted: true }],
    ['a place below it', { type: 'placeTrack', track: 'g', placement: { ...FRONT, azimuth: -20 } }],
    [
      'a stage of a track below it',
      { type: 'switchStage', owner: { kind: 'track', id: 'g' }, stage: 'look', on: false },
    ],
    ['its chain', { type: 'switchStage', owner: harbour, stage: 'comp', on: false }],
    ['its trim', { type: 'setBus', bus: 'harbour', trim: 0 }],
    ['another source', { type: 'sendTracks', tracks: ['v'], destination: 'harbour' }],
    ['a source that leaves', { type: 'sendTracks', tracks: ['g'], destination: 'efx' }],
    [
      'a lane below it',
      {
        type: 'writeLane',
        target: { node: 'g', param: 'level' },
        from: 0,
        to: 60_000,
        points: [{ at: 10, value: -6, shape: 'step' }],
      },
    ],
  ] as [string, EditJson][])('plays from what feeds it once %s is changed, and it is told', async (_, change) => {
    const doc = await frozen(session());
    expect(beforePrinting(doc).map((c) => c.id)).not.toContain('frozen/harbour');
    const changed = applied(doc, change);
    expect(isFresh(changed, busOf(changed, 'harbour'))).toBe(false);
    expect(playedOf(changed)).toBe(changed);
    const told = beforePrinting(changed).find((c) => c.id === 'frozen/harbour');
    expect(applied(changed, ...told!.mends[0]!.edits).buses.some((b) => b.frozen)).toBe(false);
    expectSame(await files(changed), await files(applied(session(), change)));
  });
  it.each([
    ['its level', { type: 'setBus', bus: 'harbour', level: -9 }],
    ['its mute', { type: 'setBus', bus: 'harbour', muted: true }],
    ['where it goes', { type: 'sendBus', bus: 'harbour', destination: 'amb' }],
    ['a name below it', { type: 'setTrack', track: 'g', name: 'Birds' }],
    ['what does not come to it', { type: 'setTrack', track: 'v', level: -9 }],
    ['a send beside it', { type: 'setSend', owner: 'v', send: 't', level: -20 }],
  ] as [string, EditJson][])('stays frozen when %s is changed, and follows it', async (_, change) => {
    const doc = applied(await frozen(session()), change);
    expect(isFresh(doc, busOf(doc, 'harbour'))).toBe(true);
    expectSame(await files(doc), await files(applied(session(), change)));
  });
  it('is as long as its tails one behind the other', () => {
    const room = (owner: EditJson & { type: 'addStage' }) => owner;
    const one = session(room({ type: 'addStage', owner: harbour, id: 'r1', stage: 'reverb' }));
    const two = applied(one, { type: 'addStage', owner: { kind: 'track', id: 'g' }, id: 'r2', stage: 'reverb' });
    const own = frozenSpan(session(), 'harbour').frames;
    expect(frozenSpan(two, 'harbour').frames - own).toBe(2 * (frozenSpan(one, 'harbour').frames - own));
  });
  it('keeps its file, and is told with what to do where it is gone', async () => {
    const doc = await frozen(session());
    expect(() => applied(doc, { type: 'removeMedia', media: ['frozen-harbour'] })).toThrow(/used by Harbour/);
    const [check] = missingCheck(doc, { missing: ['frozen-harbour'] } as never);
    expect(check!.mends.map((m) => m.label)).toEqual(['Thaw Harbour']);
    expect(applied(doc, ...check!.mends[0]!.edits).buses.some((b) => b.frozen)).toBe(false);
  });
});

describe('freezing a bus is refused', () => {
  const fault = (doc: SessionDoc, id: string) => freezeFault(doc, busOf(doc, id));
  it('where it is a sum, apart for each stem, or empty', () => {
    expect(fault(session(), 'ref')).toMatch(/sum of its stems; freeze those/);
    expect(fault(session(), 'air')).toMatch(/once for each stem/);
    expect(fault(session(), 'amb')).toMatch(/Nothing that sounds comes to/);
  });
  it('where a send takes its sound before the chain', () => {
    const doc = session({ type: 'addSend', owner: 'harbour', id: 'e', to: 'air', tap: 'arriving' });
    expect(fault(doc, 'harbour')).toMatch(/sent to Air from before its chain/);
  });
  it('where something was changed meanwhile', () => {
    const media = { ...mono('frozen-x', 90_000), channels: 2 };
    expect(() => applied(session(), { type: 'freezeBus', bus: 'harbour', media, start: 0, from: 1 })).toThrow(
      /changed while it was being frozen/,
    );
  });
});
