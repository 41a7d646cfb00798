// Tracks of one channel behind filters of one shape run side by side. Whether a track has such a neighbour changes no sample.
import { describe, expect, it, vi } from 'vitest';
import { FORMAT } from '../../../tests/support/session';
import { newKernels, noise } from '../../../tests/support/kernels';
import { applyEdit, newSession, readEdit, type EditJson, type SessionDoc } from '@/core/session';
import { compilePlan, Engine } from '.';
import { Cascade } from './cascade';

const k = newKernels();
const FRAMES = 4000;
const apply = (doc: SessionDoc, edits: readonly EditJson[]) =>
  edits.reduce((d, e) => applyEdit(d, readEdit(e)).doc, doc);
const on = (id: string) => ({ kind: 'track', id }) as const;

const track = (id: string, layout = 'mono'): EditJson =>
  ({ type: 'addTrack', id, name: id, layout, destination: 'dia' }) as EditJson;
const filters = (id: string): EditJson[] => [
  { type: 'addStage', owner: on(id), id: `${id}1`, stage: 'lowCut' },
  { type: 'addStage', owner: on(id), id: `${id}2`, stage: 'eq' },
  { type: 'setStage', owner: on(id), stage: `${id}2`, values: { g1: 3, g2: -2, g3: 4 } },
  { type: 'addStage', owner: on(id), id: `${id}3`, stage: 'compressor' },
];

/** What each track gives, and the reference; `between`: a wide track stands between each two. */
function ran(tracks: readonly string[], between: boolean, more: readonly EditJson[], size = 256) {
  const rows = tracks.flatMap((id) => [track(id), ...(between ? [track(`${id}-wide`, 'stereo')] : [])]);
  const doc = apply(newSession('Test', 'TS', { ...FORMAT }), [...rows, ...tracks.flatMap(filters), ...more]);
  const later = apply(doc, [{ type: 'setStage', owner: on('a'), stage: 'a2', values: { g2: 6, g4: -4 } }]);
  const engine = new Engine(k, size);
  engine.load(compilePlan(k, doc, { mode: 'print' }));
  const of = [...tracks, 'dia', 'ref'];
  const out = Object.fromEntries(of.map((id) => [id, new Float32Array(FRAMES)]));
  for (let at = 0; at < FRAMES; at += size) {
    if (at === 2048) engine.load(compilePlan(k, later, { mode: 'print' }));
    const n = Math.min(size, FRAMES - at);
    engine.begin(n);
    tracks.forEach((id, i) =>
      engine
        .node(id)
        .buffer.view(0, n)
        .set(noise(FRAMES, 0.3, 2 + i).subarray(at, at + n)),
    );
    engine.run(n);
    for (const id of of) out[id]!.set(engine.node(id).buffer.view(engine.node(id).buffer.channels - 1, n), at);
  }
  return out;
}

describe.each([['two', ['a', 'b']] as const, ['five', ['a', 'b', 'c', 'd', 'e']] as const])(
  '%s tracks',
  (_, tracks) => {
    it.each<[string, EditJson[]]>([
      ['plain', []],
      ['one filter off', [{ type: 'switchStage', owner: on('b'), stage: 'b1', on: false }]],
      ['one with another shape', [{ type: 'removeStage', owner: on('b'), stage: 'b1' }]],
      ['a key from its neighbour', [{ type: 'setStageKey', owner: on('b'), stage: 'b3', key: 'a' }]],
      [
        'a send before the chain',
        [
          {
            type: 'addTracks',
            tracks: [{ id: 'hall', name: 'Hall', layout: 'stereo', kind: 'return', destination: 'dia' }],
          },
          { type: 'addSend', owner: 'b', id: 's', to: 'hall', tap: 'arriving' },
        ],
      ],
    ])('sound alike beside each other and apart: %s', (_, more) => {
      const [beside, apart] = [ran(tracks, false, more), ran(tracks, true, more)];
      for (const id of tracks) expect(apart[id], id).toEqual(beside[id]);
      expect(apart.dia).toEqual(beside.dia);
      expect(apart.ref).toEqual(beside.ref);
      expect(ran(tracks, false, more, 128)).toEqual(beside);
    });
  },
);

it('they do run side by side, and wide ones between them keep them apart', () => {
  const met = vi.spyOn(Cascade.prototype, 'runBeside');
  ran(['a', 'b', 'c', 'd'], true, []);
  expect(met).not.toHaveBeenCalled();
  ran(['a', 'b', 'c', 'd'], false, []);
  // In the second half the first one has a band more than its neighbour.
  const half = Math.ceil(FRAMES / 256 / 2);
  expect(met).toHaveBeenCalledTimes(2 * half + half);
  met.mockRestore();
});
