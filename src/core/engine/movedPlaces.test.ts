// A source that moves keeps its power and never jumps, in every layout, as the engine plays it.
import { describe, expect, it } from 'vitest';
import { newKernels } from '../../../tests/support/kernels';
import { applied, FORMAT } from '../../../tests/support/session';
import { newSession, type EditJson } from '@/core/session';
import { LAYOUTS, type Layout } from '@/core/speakers';
import { compilePlan, Engine } from '.';

const k = newKernels();
/** Half a second for a whole way: faster than anybody moves a sound. */
const N = 24_000;
const BLOCK = 1000;

const lane = (param: string, from: number, to: number): EditJson => ({
  type: 'writeLane',
  target: { node: 'a', param },
  from: 0,
  to: N,
  points: [
    { at: 0, value: from, shape: 'line' },
    { at: N, value: to, shape: 'line' },
  ],
});

/** Gain of every speaker at every sample, of a source that sounds at 1. */
function gainsAlong(layout: Layout, ...edits: EditJson[]): Float32Array[] {
  const doc = applied(
    newSession('Moves', 'MO', { ...FORMAT, layout: layout.id }),
    { type: 'addTrack', id: 'a', name: 'A', layout: 'mono', destination: 'dia' },
    ...edits,
  );
  const engine = new Engine(k, BLOCK);
  engine.load(compilePlan(k, doc, { mode: 'print' }));
  const out = layout.speakers.map(() => new Float32Array(N));
  for (let at = 0; at < N; at += BLOCK) {
    engine.begin(BLOCK);
    engine.node('a').buffer.view(0, BLOCK).fill(1);
    engine.run(BLOCK, at);
    out.forEach((o, c) => o.set(engine.node('dia').buffer.view(c, BLOCK), at));
  }
  return out;
}

const high = (layout: Layout) => layout.speakers.some((s) => !s.lfe && s.elevation !== 0);
const place = (part: object): EditJson => ({
  type: 'placeTrack',
  track: 'a',
  placement: { azimuth: 0, distance: 1, width: 0, lfe: -100, ...part },
});

const WAYS: Record<string, (layout: Layout) => EditJson[]> = {
  around: () => [lane('azimuth', -180, 180)],
  'around, raised': (l) => (high(l) ? [place({ elevation: 30 }), lane('azimuth', -180, 180)] : []),
  'over the middle': (l) => (high(l) ? [place({ azimuth: 40 }), lane('elevation', 0, 90)] : []),
  'through the room': () => [place({ azimuth: 70 }), lane('distance', 1, 0)],
  wider: () => [place({ azimuth: -20 }), lane('spread', 0, 180)],
};

describe.each(LAYOUTS.filter((l) => l.speakers.filter((s) => !s.lfe).length > 1).map((l) => [l.id, l] as const))(
  '%s',
  (_, layout) => {
    it.each(Object.entries(WAYS))('%s: power within 0.2 dB all the way, no speaker jumps', (_name, way) => {
      const edits = way(layout);
      if (edits.length === 0) return;
      const gains = gainsAlong(layout, ...edits);
      const heard = layout.speakers.flatMap((s, c) => (s.lfe ? [] : [gains[c]!]));
      let [least, most, step] = [Infinity, 0, 0];
      for (let i = 0; i < N; i++) {
        const power = heard.reduce((sum, g) => sum + g[i]! ** 2, 0);
        [least, most] = [Math.min(least, power), Math.max(most, power)];
        if (i > 0) for (const g of heard) step = Math.max(step, Math.abs(g[i]! - g[i - 1]!));
      }
      expect(10 * Math.log10(most)).toBeLessThan(0.2);
      expect(10 * Math.log10(least)).toBeGreaterThan(-0.2);
      // The narrowest pair is crossed in some 30 degrees: a jump would be many times this.
      expect(step).toBeLessThan(0.01);
    });
  },
);
