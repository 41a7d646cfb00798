import { describe, expect, it } from 'vitest';
import { compilePlan, Engine } from '@/core/engine';
import type { EditJson } from '@/core/session';
import { newKernels } from '../../../tests/support/kernels';
import { sessionWith } from '../../../tests/support/session';
import { takeNodePeaks } from './nodePeaks';

const k = newKernels();
const N = 512;

/** Peaks after a steady 0.5 on a and 0.25 on b. */
function peaks(...edits: EditJson[]) {
  const doc = sessionWith(
    { type: 'addTrack', id: 'a', name: 'A', layout: 'mono', destination: 'dia' },
    { type: 'addTrack', id: 'b', name: 'B', layout: 'mono', destination: 'nar' },
    { type: 'addTracks', tracks: [{ id: 'hall', name: 'Hall', layout: 'mono', kind: 'return', destination: 'dia' }] },
    { type: 'addSend', owner: 'a', id: 's1', to: 'hall' },
    { type: 'addSend', owner: 'b', id: 's2', to: 'hall' },
    ...edits,
  );
  const engine = new Engine(k, N, { meters: true });
  engine.load(compilePlan(k, doc, { mode: 'live' }));
  engine.begin(N);
  engine.node('a').buffer.view(0, N).fill(0.5);
  engine.node('b').buffer.view(0, N).fill(0.25);
  engine.run(N);
  const taken = takeNodePeaks(engine.all);
  expect(takeNodePeaks(engine.all).a!.after).toEqual([0]);
  return taken;
}

describe('peaks by node', () => {
  it('of a return that is kept apart are those of its loudest room', () => {
    expect(peaks().hall!.after[0]).toBeCloseTo(0.75, 6);
    const apart = peaks({ type: 'setBus', bus: 'hall', rooms: 'each stem' });
    expect(apart.hall!.after[0]).toBeCloseTo(0.5, 6);
    expect(Object.keys(apart).some((id) => id.includes('@'))).toBe(false);
  });
  it('of a stem that is limited together with others are those of what is printed', () => {
    const linked = peaks({
      type: 'setReference',
      bus: 'ref',
      linked: { on: true, ceiling: -12, release: 80, peaks: 'sample' },
    });
    const before = Math.max(...linked.dia!.before);
    expect(Math.max(...linked.dia!.after)).toBeLessThan(before / 2);
    expect(Object.keys(linked).some((id) => id.startsWith('sum/') || id.startsWith('linked/'))).toBe(false);
  });
});
