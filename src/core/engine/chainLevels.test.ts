import { expect, it } from 'vitest';
import { newKernels, noise, put } from '../../../tests/support/kernels';
import { newStage } from '@/core/session';
import { ChainRunner } from './chainRunner';

const RATE = 48_000;

function run(looked: boolean) {
  const k = newKernels();
  const chain = new ChainRunner(k, RATE, 1, 480);
  const trims = [-6, -12].map((gain, i) => {
    const stage = newStage(`t${i}`, 'trim', true);
    stage.values.gain = gain;
    return stage;
  });
  chain.load([newStage('cut', 'lowCut', true), newStage('eq', 'eq', true), ...trims]);
  const sound = noise(RATE, 0.5, 3);
  const out = new Float32Array(sound.length);
  for (let at = 0; at < sound.length; at += 480) {
    chain.measure(looked && at >= 9_600);
    const set = put(k, [sound.subarray(at, at + 480)]);
    chain.run(set.table, 480);
    out.set(set.view(0, 480), at);
    // The trims have come to where they were set.
    if (at === 24_000) chain.takeLevels();
    set.free();
  }
  return { out, levels: chain.takeLevels() };
}

it('what goes into each stage and comes out of it is told, and changes nothing of the sound', () => {
  const looked = run(true);
  expect(looked.out).toEqual(run(false).out);
  expect(Object.keys(looked.levels)).toEqual(['cut', 'eq', 't0', 't1']);
  const { t0, t1, eq } = looked.levels;
  expect(20 * Math.log10(t0![1] / t0![0])).toBeCloseTo(-6, 2);
  expect(20 * Math.log10(t1![1] / t1![0])).toBeCloseTo(-12, 2);
  expect([t0![0], t1![0]]).toEqual([eq![1], t0![1]]);
  expect(run(false).levels).toEqual({});
});
