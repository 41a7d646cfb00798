import { expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { printed, provenIn, readerOf } from '../../../tests/support/printed';
import { applied, sessionWith } from '../../../tests/support/session';
import { peak } from '../../../tests/support/stages';
import type { EditJson, SessionDoc } from '@/core/session';
import { compareFile, filePairs, takeApart, type FileChange, type FileProof } from '.';
import { MemorySource } from '../../../tests/support/memorySource';

const k = newKernels();
const FRAMES = 48_000;
const clip = (id: string, track: string): EditJson => ({
  ...{ type: 'addClip', id: `c-${id}`, track, start: 0 },
  media: { id, name: `${id}.wav`, channels: 1, frames: FRAMES, sampleRate: 48_000, kind: 'file' },
});
const base = sessionWith(
  { type: 'addTrack', id: 'n', name: 'Narrator', layout: 'mono', destination: 'nar' },
  { type: 'addTrack', id: 'd', name: 'Pilot', layout: 'mono', destination: 'dia' },
  ...[clip('one', 'n'), clip('two', 'd')],
);
const sounds = { one: [noise(FRAMES, 0.1, 3)], two: [noise(FRAMES, 0.1, 5)] };

async function made(doc: SessionDoc, end = FRAMES) {
  const memory = await printed(k, doc, readerOf(sounds), { end });
  const proof = await provenIn(k, doc, memory);
  const open = (f: FileProof) =>
    Object.assign(new MemorySource(memory.bytes.get(f.deliverable)!), { close: () => Promise.resolve() });
  return { proof, range: memory.range, open };
}

async function changes(before: Awaited<ReturnType<typeof made>>, after: Awaited<ReturnType<typeof made>>) {
  const out: FileChange[] = [];
  for (const pair of filePairs(before, after))
    out.push(await compareFile(k, pair, async (f, of) => (of === 'before' ? before : after).open(f)));
  return (what: string) => out.find((c) => c.what === what)!;
}

it('what did not change is equal to the bit, what did is told in figures and with its place', async () => {
  const louder = applied(base, { type: 'setTrack', track: 'd', level: 6 });
  const [before, after] = [await made(base), await made(louder)];
  const of = await changes(before, after);
  expect(of('Narration')).toMatchObject({ difference: -Infinity, place: null, why: null });
  const dialogue = of('Dialogue');
  // A voice in the centre, raised by 6.02 dB less its place's gain: as much again is left.
  expect(dialogue.difference).toBeCloseTo(dialogue.before!.facts.samplePeak + 20 * Math.log10(10 ** (6 / 20) - 1), 1);
  expect(dialogue.place!.speaker).toBe('C');
  expect(of('Reference').difference).toBeCloseTo(dialogue.difference!, 1);
  expect(of('Reference').before!.facts.integrated).toBeLessThan(of('Reference').after!.facts.integrated);
  // By ear: what is left of the one less the other is just what was added.
  const pair = filePairs(before, after).find((p) => p.what === 'Reference')!;
  let most = 0;
  await takeApart(
    k,
    { source: after.open(pair.after!), file: pair.after! },
    { source: before.open(pair.before!), file: pair.before! },
    async (table, n) => {
      for (let c = 0; c < 6; c++)
        most = Math.max(
          most,
          peak(k.heap.slice(k.heapU32[(table >> 2) + c]! >> 2, (k.heapU32[(table >> 2) + c]! >> 2) + n)),
        );
    },
  );
  expect(20 * Math.log10(most)).toBeCloseTo(of('Reference').difference!, 6);
});

it('what cannot be laid over each other says why, and what came or went is told', async () => {
  const film = applied(base, { type: 'setDeliverable', deliverable: base.deliverables[0]!.id, order: 'film' });
  // Another order of channels is no other sound.
  expect((await changes(await made(base), await made(film)))('Reference').difference).toBe(-Infinity);
  expect((await changes(await made(base), await made(base, FRAMES - 480)))('Reference')).toMatchObject({
    difference: null,
    why: 'it has another length',
  });
  const [first, ...rest] = base.deliverables;
  const fewer = { ...base, deliverables: rest };
  expect((await changes(await made(base), await made(fewer)))('Reference').why).toBe('it is not there any more');
  expect((await changes(await made(fewer), await made(base)))('Reference').why).toBe('it is new');
  const narrow = applied(base, { type: 'setDeliverable', deliverable: first!.id, layout: 'stereo' });
  const pairs = filePairs(await made(base), await made(narrow));
  expect((await compareFile(k, pairs[0]!, () => Promise.reject(new Error('not asked for')))).why).toBe(
    'it has another layout',
  );
});
