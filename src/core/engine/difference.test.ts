// By how much the stems differ from their reference, as it is shown while they sound.
import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { applied, monoTrack, sessionWith } from '../../../tests/support/session';
import type { EditJson, SessionDoc } from '@/core/session';
import { compilePlan, differenceNode, Engine } from '.';

const k = newKernels();
const BLOCK = 512;
const BLOCKS = 40;

const session = (...edits: EditJson[]): SessionDoc =>
  sessionWith(
    monoTrack('a'),
    { ...monoTrack('b'), destination: 'mus' } as EditJson,
    { type: 'placeTrack', track: 'b', placement: { azimuth: 70, distance: 0.6, width: 0, lfe: -20 } },
    ...edits,
  );

/** Highest level of a reference's difference node (linear), with noise on both tracks. */
function difference(doc: SessionDoc, reference = 'ref'): number {
  const engine = new Engine(k, BLOCK);
  engine.load(compilePlan(k, doc, { mode: 'live', rolling: true }));
  const sound = ['a', 'b'].map((_, i) => noise(BLOCK * BLOCKS, 0.9, i + 3));
  let top = 0;
  for (let b = 0; b < BLOCKS; b++) {
    engine.begin(BLOCK);
    ['a', 'b'].forEach((id, i) =>
      engine
        .node(id)
        .buffer.view(0, BLOCK)
        .set(sound[i]!.subarray(b * BLOCK, (b + 1) * BLOCK)),
    );
    engine.run(BLOCK, b * BLOCK);
    const { buffer } = engine.node(differenceNode(reference));
    for (let c = 0; c < buffer.channels; c++) for (const v of buffer.view(c, BLOCK)) top = Math.max(top, Math.abs(v));
  }
  return top;
}

const limiter = (bus: string): EditJson => ({
  type: 'addStage',
  owner: { kind: 'bus', id: bus },
  id: `${bus}-l`,
  stage: 'limiter',
});
const linked: EditJson = {
  type: 'setReference',
  bus: 'ref',
  linked: { on: true, ceiling: -6, release: 80, peaks: 'true' },
};

describe('stems against their reference', () => {
  it.each<[string, EditJson[]]>([
    ['plain', []],
    ['with a limiter, and so a delay, on one of them', [limiter('dia')]],
    ['limited together', [linked]],
    ['limited together, one with a limiter of its own', [linked, limiter('mus')]],
  ])('%s, they add up', (_, edits) => {
    // Single precision: 24 bits.
    expect(difference(session(...edits))).toBeLessThanOrEqual(2 ** -22);
  });

  it('a limiter on the reference takes something that no stem has', () => {
    expect(difference(session(limiter('ref')))).toBeGreaterThan(0.01);
  });

  it('a level of the reference is told as what it takes away', () => {
    const half = difference(session({ type: 'setBus', bus: 'ref', level: -6.0206 }));
    const all = difference(session({ type: 'setBus', bus: 'ref', level: -100 }));
    expect(half / all).toBeCloseTo(0.5, 3);
  });

  it('stems that a reference leaves out do not count, and each reference is looked at', () => {
    const two = session({ type: 'addReference', id: 'r2', name: 'Without music', leftOut: ['mus'] });
    expect(difference(two, 'r2')).toBeLessThanOrEqual(2 ** -22);
    const past = applied(two, { type: 'sendTracks', tracks: ['b'], destination: 'r2' });
    expect(difference(past, 'r2')).toBeGreaterThan(0.1);
    expect(difference(past, 'ref')).toBeLessThanOrEqual(2 ** -22);
  });
});
