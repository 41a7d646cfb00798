import { describe, expect, it } from 'vitest';
import { ChainLoudness, matchingGain } from '.';

const hops = (level: number, n: number) => Array<number>(n).fill(10 ** ((level + 0.691) / 10));

describe('how much louder a chain makes things', () => {
  it('is told after four seconds of sound, pauses do not count', () => {
    const chain = new ChainLoudness();
    chain.take(hops(-70, 100), hops(-70, 100));
    chain.take(hops(-20, 39), hops(-14, 39));
    expect(chain.gain).toBeNull();
    chain.take(hops(-20, 1), hops(-14, 1));
    expect(chain.gain).toBeCloseTo(6, 10);
  });
  it('does not depend on what is said meanwhile', () => {
    const [loud, soft] = [new ChainLoudness(), new ChainLoudness()];
    loud.take(hops(-12, 50), hops(-15, 50));
    soft.take(hops(-40, 50), hops(-43, 50));
    expect(loud.gain).toBeCloseTo(soft.gain!, 10);
  });
  it('brings the louder side down and never the softer one up', () => {
    expect([matchingGain(6, 2), matchingGain(2, 6), matchingGain(null, 3), matchingGain(3, null)]).toEqual([
      -4, 0, 0, 0,
    ]);
  });
});
