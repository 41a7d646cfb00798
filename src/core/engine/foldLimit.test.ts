// A fold-down that is limited for itself: under its ceiling, with all else as it was.
import { describe, expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { applied, monoTrack, sessionWith } from '../../../tests/support/session';
import type { EditJson, SessionDoc } from '@/core/session';
import { compilePlan, Engine, foldNode } from '.';

const k = newKernels();
const BLOCK = 512;
const BLOCKS = 60;

const session = (...edits: EditJson[]): SessionDoc =>
  sessionWith(
    monoTrack('a'),
    { type: 'placeTrack', track: 'a', placement: { azimuth: 110, distance: 0.4, width: 0, lfe: -100 } },
    { type: 'addDeliverable', id: 'fold', bus: 'ref', layout: 'stereo', token: 'RST' },
    ...edits,
  );

/** What a node gives in a print, with a loud noise on the track; and by how much it is late. */
function printed(doc: SessionDoc, node: string): { out: Float32Array[]; lead: number } {
  const plan = compilePlan(k, doc, { mode: 'print' });
  const engine = new Engine(k, BLOCK);
  engine.load(plan);
  const sound = noise(BLOCK * BLOCKS, 1, 9);
  const { channels, lead } = plan.nodes.find((n) => n.id === node)!;
  const out = Array.from({ length: channels }, () => new Float32Array(BLOCK * BLOCKS));
  for (let b = 0; b < BLOCKS; b++) {
    engine.begin(BLOCK);
    engine
      .node('a')
      .buffer.view(0, BLOCK)
      .set(sound.subarray(b * BLOCK, (b + 1) * BLOCK));
    engine.run(BLOCK, b * BLOCK);
    out.forEach((o, c) => o.set(engine.node(node).buffer.view(c, BLOCK), b * BLOCK));
  }
  return { out, lead };
}
const peak = (channels: readonly Float32Array[]) =>
  20 * Math.log10(Math.max(...channels.flatMap((c) => c.reduce((top, v) => Math.max(top, Math.abs(v)), 0))));

describe('a fold-down', () => {
  const limit: EditJson = { type: 'setDeliverable', deliverable: 'fold', ceiling: -12 };

  it('is held under its ceiling, and only where that was asked for', () => {
    expect(peak(printed(session(), foldNode('fold')).out)).toBeGreaterThan(-8);
    const limited = printed(session(limit), foldNode('fold'));
    expect(peak(limited.out)).toBeLessThanOrEqual(-12);
    expect(peak(limited.out)).toBeGreaterThan(-15);
    expect(limited.lead).toBeGreaterThan(0);
  });

  it('changes nothing of the reference it is made of', () => {
    expect(printed(session(limit), 'ref').out).toEqual(printed(session(), 'ref').out);
  });

  it('is let go again; what is no fold-down has none', () => {
    const doc = applied(session(limit), { type: 'setDeliverable', deliverable: 'fold', ceiling: null });
    expect(doc.deliverables.find((d) => d.id === 'fold')).not.toHaveProperty('ceiling');
    const whole = doc.deliverables.find((d) => d.bus === 'ref' && d.layout === '5.1')!;
    expect(() => applied(doc, { type: 'setDeliverable', deliverable: whole.id, ceiling: -1 })).toThrow(/no fold-down/);
  });
});
