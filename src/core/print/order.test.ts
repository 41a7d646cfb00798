// Files whose channels stand in another order: the sound, what the file says of it, and the proof.
import { describe, expect, it } from 'vitest';
import { samplesOf } from '../../../tests/support/files';
import { newKernels, noise } from '../../../tests/support/kernels';
import { printed, readerOf, provenIn } from '../../../tests/support/printed';
import { applied, sessionWith } from '../../../tests/support/session';
import { parseAudio } from '@/core/files';
import { orderCheck } from '@/core/checks';
import { atRate, frozenFrom, type EditJson, type SessionDoc } from '@/core/session';
import { labelsIn, layoutOf, type ChannelOrder } from '@/core/speakers';
import { exampleName } from '.';

const k = newKernels();
const FRAMES = 48_000;
const surround = layoutOf('5.1');
// One channel is as loud as no other: where it went can be told.
const sounds = { six: surround.speakers.map((_, c) => noise(FRAMES, 0.05 * (c + 1), c + 1)) };

const doc: SessionDoc = sessionWith(
  { type: 'addTrack', id: 'six', name: 'Six', layout: '5.1', destination: 'amb' },
  {
    ...{ type: 'addClip', id: 'c', track: 'six', start: 0 },
    media: { id: 'six', name: 'six.wav', channels: 6, frames: FRAMES, sampleRate: 48_000, kind: 'file' },
  },
);
const asked = (bus: string) => doc.deliverables.find((d) => d.bus === bus)!.id;
const inOrder = (bus: string, order: ChannelOrder): EditJson => ({
  type: 'setDeliverable',
  deliverable: asked(bus),
  order,
});

const print = (d: SessionDoc) => printed(k, d, readerOf(sounds), { end: FRAMES });

const proofOf = async (d: SessionDoc) => provenIn(k, d, await print(d));

describe.each(['film', 'pairs'] as const)('a file in %s order', (order) => {
  const moved = applied(doc, inOrder('ref', order));
  it('holds each speaker where the order says, and names them', async () => {
    const [plain, other] = [await print(doc), await print(moved)];
    const was = await samplesOf(k, plain.of('ref'));
    const is = await samplesOf(k, other.of('ref'));
    labelsIn(surround, order).forEach((label, c) =>
      expect(is[c], label).toEqual(was[surround.speakers.findIndex((s) => s.label === label)]),
    );
    const info = await parseAudio(other.of('ref'));
    expect(info.ixml?.tracks).toEqual(labelsIn(surround, order));
    // A mask would say that they stand as masks count.
    expect(info.mask).toBe(0);
    expect((await parseAudio(plain.of('ref'))).mask).toBe(surround.mask);
  });
  it('is as loud as before, and its stems still add up', async () => {
    const [before, after] = [await proofOf(doc), await proofOf(moved)];
    const loud = (p: typeof before) => p.files.find((f) => f.deliverable === asked('ref'))!.facts.integrated;
    expect(loud(after)).toBe(loud(before));
    expect(after.sum).toMatchObject({ equal: true, difference: before.sum!.difference, place: before.sum!.place });
  });
});

it('nothing is moved where there is one file a channel', async () => {
  const apart = applied(doc, inOrder('ref', 'film'), { type: 'setFormat', perChannel: true });
  expect(await samplesOf(k, (await print(apart)).of('ref'))).toEqual(await samplesOf(k, (await print(doc)).of('ref')));
});

it('the order can stand in the name', () => {
  const named = applied(doc, inOrder('ref', 'film'), { type: 'setSession', namePattern: '{bus}_{layout}_{order}' });
  const names = named.deliverables.map((d) => exampleName(named, d));
  expect(names).toContain('REF_51_film.wav');
  expect(names).toContain('AMB_51_wav.wav');
});

it('is forgotten by a layout whose orders are all alike', () => {
  const stereo = applied(doc, inOrder('ref', 'film'), {
    type: 'setDeliverable',
    deliverable: asked('ref'),
    layout: 'stereo',
  });
  expect(stereo.deliverables.find((d) => d.id === asked('ref'))).not.toHaveProperty('order');
});

it('of a layout of one’s own every speaker is heard in the loudness, whatever their number', async () => {
  // Six speakers in front: none is an LFE, as the fourth of 5.1 would be.
  const six = 'own/Screen/A,50,0;B,30,0;C1,10,0;D,-10,0;E,-30,0;F,-50,0';
  const own = applied(
    sessionWith({ type: 'setFormat', layout: six }),
    { type: 'addTrack', id: 'screen', name: 'Screen', layout: six, destination: 'amb' },
    {
      ...{ type: 'addClip', id: 'c', track: 'screen', start: 0 },
      media: { id: 'six', name: 'six.wav', channels: 6, frames: FRAMES, sampleRate: 48_000, kind: 'file' },
    },
  );
  const only = { six: sounds.six.map((x, c) => (c === 3 ? x : new Float32Array(FRAMES))) };
  const { files, bytes, range } = await printed(k, own, readerOf(only), { end: FRAMES });
  const ref = files.filter((f) => f.deliverable.id === asked('ref'));
  const proof = await provenIn(k, own, { files: ref, bytes, range });
  expect(proof.files[0]!.facts.integrated).toBeGreaterThan(-40);
});

describe('a file that came in another order', () => {
  const from = labelsIn(surround, 'film').map((l) => sounds.six[surround.speakers.findIndex((s) => s.label === l)]!);
  it('is heard and printed speaker by speaker once its order is said, and frozen anew', async () => {
    const said = applied(doc, { type: 'setMediaOrder', media: 'six', order: 'film' });
    const files = await printed(k, said, readerOf({ six: from }), { end: FRAMES });
    expect(await samplesOf(k, files.of('ref'))).toEqual(await samplesOf(k, (await print(doc)).of('ref')));
    expect(frozenFrom(said, said.tracks[0]!)).not.toBe(frozenFrom(doc, doc.tracks[0]!));
    expect(applied(said, { type: 'setMediaOrder', media: 'six', order: 'wav' }).media).toEqual(doc.media);
  });
  it('goes along with a file that is made from it: at another rate, or of its own', () => {
    const said = applied(doc, { type: 'setMediaOrder', media: 'six', order: 'film' });
    const made = { ...doc.media.six!, id: 'made', frames: 2 * FRAMES, sampleRate: 96_000 };
    expect(atRate(said, 96_000, new Map([['six', made]])).media.made).toMatchObject({ order: 'film' });
    const own = applied(said, { type: 'giveClipFile', clip: 'c', media: { ...doc.media.six!, id: 'own' } });
    expect(own.media.own).toMatchObject({ order: 'film' });
  });
  it('is asked about until somebody says it, with what its sound speaks for first', () => {
    const asked = { ...doc, media: { six: { ...doc.media.six!, unsaid: ['film' as const, 'pairs' as const] } } };
    const [check] = orderCheck(asked);
    expect(check).toMatchObject({ id: 'channel-order/six', grade: 'warn', about: ['six'] });
    expect(check!.why).toMatch(/heard as L R C LFE Ls Rs, but its channel 6 is silent or holds low sounds only/);
    expect(check!.mends.map((m) => m.label)).toEqual([
      'film: L C R Ls Rs LFE',
      'pairs first: L R Ls Rs C LFE',
      'as WAV: L R C LFE Ls Rs',
    ]);
    for (const mend of check!.mends) expect(orderCheck(applied(asked, ...mend.edits))).toEqual([]);
    expect(orderCheck({ ...asked, tracks: [] })).toEqual([]);
  });
});
