import { expect, it } from 'vitest';
import { newKernels, noise } from '../../../tests/support/kernels';
import { monoTrack, sessionWith } from '../../../tests/support/session';
import { compilePlan, Engine } from '@/core/engine';
import { integrated } from '@/core/measure';
import { ReferenceMeasure } from './referenceMeasure';

const k = newKernels();
const BLOCK = 480;
const sound = noise(48_000, 0.4, 5);

const inLayout = (layout: '5.1' | 'stereo') =>
  compilePlan(k, sessionWith(monoTrack('t'), { type: 'setFormat', layout }), { mode: 'live' });

it('measures the layout that the reference has now, also when it changed while sound runs', () => {
  const measure = new ReferenceMeasure(k, BLOCK);
  const engine = new Engine(k, BLOCK);
  const second = () => {
    const hops: number[] = [];
    for (let at = 0; at < sound.length; at += BLOCK) {
      engine.begin(BLOCK);
      engine
        .node('t')
        .buffer.view(0, BLOCK)
        .set(sound.subarray(at, at + BLOCK));
      engine.run(BLOCK);
      measure.run(engine, BLOCK);
      hops.push(...measure.take().hops);
    }
    return hops;
  };
  const load = (layout: '5.1' | 'stereo') => {
    engine.load(inLayout(layout));
    measure.load(inLayout(layout));
  };
  load('5.1');
  const wide = second();
  expect(measure.take().measures).toBe(1);
  load('stereo');
  expect(measure.take().measures).toBe(2);
  const narrow = second();
  // In front of a centre loudspeaker, or as loud between two: the same power (BS.1770-5 weighs all three alike).
  expect(integrated(narrow.slice(1))).toBeCloseTo(integrated(wide.slice(1)), 1);
  load('stereo');
  expect(measure.take().measures).toBe(2);
});
