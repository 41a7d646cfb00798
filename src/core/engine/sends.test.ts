// Sends, returns, trims: what arrives is what a few lines of plain arithmetic say.
import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { applied, FORMAT } from '../../../tests/support/session';
import { gainOf } from '../../../tests/support/stages';
import type { Tap } from '@/core/paths';
import { newSession, type EditJson, type SessionDoc } from '@/core/session';
import { compilePlan, Engine } from '.';

const k = newKernels();
const N = 4096;
const a = noise(N, 0.5, 3);
const b = noise(N, 0.5, 4);

const session = (...edits: EditJson[]): SessionDoc =>
  applied(
    newSession('Sends', 'SE', { ...FORMAT, layout: 'mono' }),
    { type: 'addTrack', id: 'a', name: 'A', layout: 'mono', destination: 'dia' },
    { type: 'addTrack', id: 'b', name: 'B', layout: 'mono', destination: 'efx' },
    { type: 'addTracks', tracks: [{ id: 'hall', name: 'Hall', layout: 'mono', kind: 'return', destination: 'amb' }] },
    ...edits,
  );

/** What the nodes hold after `N` samples. */
function run(doc: SessionDoc, ...nodes: string[]): Float32Array[] {
  const engine = new Engine(k, N);
  engine.load(compilePlan(k, doc, { mode: 'print' }));
  engine.begin(N);
  engine.node('a').buffer.view(0, N).set(a);
  engine.node('b').buffer.view(0, N).set(b);
  engine.run(N);
  return nodes.map((n) => engine.node(n).buffer.view(0, N).slice());
}

const near = (got: Float32Array, wanted: (i: number) => number) => {
  let most = 0;
  for (let i = 0; i < N; i++) most = Math.max(most, Math.abs(got[i]! - wanted(i)));
  expect(most).toBeLessThan(1e-6);
};

describe('a send', () => {
  const levels: EditJson[] = [
    { type: 'setTrack', track: 'a', level: -6 },
    { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 't', stage: 'trim' },
    { type: 'setStage', owner: { kind: 'track', id: 'a' }, stage: 't', values: { gain: 3 } },
  ];
  it.each([
    ['arriving', 0],
    ['before', 3],
    ['after', -3],
  ] as [Tap, number][])('taken %s has what stands before it, and its own level', (tap, db) => {
    const [hall, dia] = run(
      session(...levels, { type: 'addSend', owner: 'a', id: 's', to: 'hall', level: -10, tap }),
      'hall',
      'dia',
    );
    near(hall!, (i) => a[i]! * gainOf(db - 10));
    near(dia!, (i) => a[i]! * gainOf(-3));
  });
  it('of a muted track sounds on where it is taken before the level', () => {
    const muted = (tap: Tap) =>
      run(
        session(
          { type: 'setTrack', track: 'a', muted: true },
          { type: 'addSend', owner: 'a', id: 's', to: 'hall', level: 0, tap },
        ),
        'hall',
      )[0]!;
    near(muted('before'), (i) => a[i]!);
    near(muted('after'), () => 0);
  });
  it('leads to the same bus as the way out, and both are heard', () => {
    const [dia] = run(session({ type: 'addSend', owner: 'a', id: 's', to: 'dia', level: -6 }), 'dia');
    near(dia!, (i) => a[i]! * (1 + gainOf(-6)));
  });
  it('that is taken before a stage with look-ahead comes at the same moment as all else', () => {
    const edits: EditJson[] = [
      { type: 'addStage', owner: { kind: 'track', id: 'a' }, id: 'l', stage: 'limiter' },
      { type: 'setStage', owner: { kind: 'track', id: 'a' }, stage: 'l', values: { ceiling: 0 } },
      { type: 'addSend', owner: 'a', id: 's', to: 'dia', tap: 'arriving' },
    ];
    const [dia] = run(session(...edits), 'dia');
    near(dia!, (i) => (i < 71 ? 0 : 2 * a[i - 71]!));
  });
});

describe('a trim', () => {
  it('stands before the chain: a limiter behind it holds its ceiling', () => {
    const doc = session(
      { type: 'setBus', bus: 'dia', trim: 12 },
      { type: 'addStage', owner: { kind: 'bus', id: 'dia' }, id: 'l', stage: 'limiter' },
      { type: 'setStage', owner: { kind: 'bus', id: 'dia' }, stage: 'l', values: { ceiling: -6 } },
    );
    const [dia] = run(doc, 'dia');
    expect(Math.max(...dia!.map(Math.abs))).toBeCloseTo(gainOf(-6), 4);
  });
});

describe('a return for each stem', () => {
  const reverb: EditJson[] = [
    { type: 'addStage', owner: { kind: 'bus', id: 'hall' }, id: 'r', stage: 'reverb' },
    { type: 'addSend', owner: 'a', id: 's1', to: 'hall', level: -6 },
    { type: 'addSend', owner: 'b', id: 's2', to: 'hall', level: -9 },
  ];
  const rooms: EditJson = { type: 'setBus', bus: 'hall', rooms: 'each stem' };
  it('keeps the wet sound of a stem in that stem, and leaves the sum as it is', () => {
    const [shared] = run(session(...reverb), 'ref');
    const [apart, dia, efx, amb] = run(session(...reverb, rooms), 'ref', 'dia', 'efx', 'amb');
    near(apart!, (i) => shared![i]!);
    near(amb!, () => 0);
    // Each stem alone is its source with its own reverb: silencing the other source changes nothing in it.
    const alone = run(session(...reverb, rooms, { type: 'setTrack', track: 'b', muted: true }), 'dia', 'efx');
    expect(alone[0]).toEqual(dia);
    near(alone[1]!, () => 0);
    expect(efx!.some((v) => v !== 0)).toBe(true);
  });
});

describe('two references', () => {
  it('hold all stems but those that they leave out', () => {
    const [ref, two] = run(
      session({ type: 'addReference', id: 'two', name: 'Without dialogue', leftOut: ['dia'] }),
      'ref',
      'two',
    );
    near(ref!, (i) => a[i]! + b[i]!);
    near(two!, (i) => b[i]!);
  });
});
