import { expect, it } from 'vitest';
import { newKernels, noise, put } from '../../../tests/support/kernels';
import { ChainLoudness, Measure } from '@/core/measure';
import { newStage } from '@/core/session';
import { ChainRunner } from './chainRunner';

const RATE = 48_000;

it('a trim of -7 dB is found as that by listening before and after the chain', () => {
  const k = newKernels();
  const chain = new ChainRunner(k, RATE, 1, 480);
  const trim = newStage('t', 'trim', true);
  trim.values.gain = -7;
  chain.load([trim]);
  const [before, after] = [1, 2].map(() => new Measure(k, RATE, [1], 480, { truePeak: false, silence: false }));
  const found = new ChainLoudness();
  const sound = noise(5 * RATE, 0.2, 7);
  chain.listen((table, n) => before!.run(table, n));
  for (let at = 0; at < sound.length; at += 480) {
    const set = put(k, [sound.subarray(at, at + 480)]);
    chain.run(set.table, 480);
    after!.run(set.table, 480);
    set.free();
  }
  // The first stretch holds the trim's way from 0 to where it was set.
  found.take([...before!.stretches].slice(1), [...after!.stretches].slice(1));
  expect(found.gain).toBeCloseTo(-7, 2);
});
