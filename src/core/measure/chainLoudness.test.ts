import { describe, expect, it } from 'vitest';
import { newKernels, noise, put } from '../../../tests/support/kernels';
import { ChainRunner } from '@/core/engine/chainRunner';
import { newStage } from '@/core/session';
import { ChainLoudness, Measure, matchingGain } from '.';

const RATE = 48_000;
const hops = (level: number, n: number) => Array<number>(n).fill(10 ** ((level + 0.691) / 10));

describe('how much louder a chain makes things', () => {
  it('is told after two seconds of sound, pauses do not count', () => {
    const chain = new ChainLoudness();
    chain.take(hops(-70, 100), hops(-70, 100));
    chain.take(hops(-20, 19), hops(-14, 19));
    expect(chain.gain).toBeNull();
    chain.take(hops(-20, 1), hops(-14, 1));
    expect(chain.gain).toBeCloseTo(6, 10);
  });
  it('does not depend on what is said meanwhile', () => {
    const [loud, soft] = [new ChainLoudness(), new ChainLoudness()];
    loud.take(hops(-12, 30), hops(-15, 30));
    soft.take(hops(-40, 30), hops(-43, 30));
    expect(loud.gain).toBeCloseTo(soft.gain!, 10);
  });
  it('brings the louder side down and never the softer one up', () => {
    expect([matchingGain(6, 2), matchingGain(2, 6), matchingGain(null, 3), matchingGain(3, null)]).toEqual([
      -4, 0, 0, 0,
    ]);
  });
  it('a trim of -7 dB is found as that, through a real chain', () => {
    const k = newKernels();
    const chain = new ChainRunner(k, RATE, 1);
    const trim = newStage('t', 'trim', true);
    trim.values.gain = -7;
    chain.load([trim]);
    const [before, after] = [1, 2].map(() => new Measure(k, RATE, [1], 480, { truePeak: false, silence: false }));
    const found = new ChainLoudness();
    const sound = noise(3 * RATE, 0.2, 7);
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
});
