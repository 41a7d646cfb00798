// Chains of second-order sections: the same samples in blocks of any length, alone or side by side, while they glide too.
import { describe, expect, it } from 'vitest';
import { BIQUAD_BYTES } from '.';
import { inBlocks, newKernels, noise, put } from '../../../tests/support/kernels';

const k = newKernels();
const N = 3001;

const coefs = (freq: number, gain: number): number => {
  const at = k.x.alloc(40);
  k.x.designBell(at, 48_000, freq, 1, gain);
  return at;
};

/** Stages of so many sections each, with a zero between two stages; `seed` sets them. */
function chain(stages: readonly number[], seed: number): { list: number; count: number; sections: number[] } {
  const sections: number[] = [];
  const words = stages.flatMap((many) => [
    ...Array.from({ length: many }, () => {
      const p = k.x.alloc(BIQUAD_BYTES);
      k.bytes(p, BIQUAD_BYTES).fill(0);
      k.x.biquadSet(p, coefs(100 * (sections.length + seed + 1), 3 * ((sections.length % 3) - 1)), 0);
      sections.push(p);
      return p;
    }),
    0,
  ]);
  const list = k.x.alloc(words.length * 4);
  k.u32(list, words.length).set(words);
  return { list, count: words.length, sections };
}

const SHAPES = [[1], [2], [3], [4], [3, 1], [7, 2], [1, 0, 1], [2, 3]] as const;
/** Where something is set anew: a section heads elsewhere, one within that glide, one later. */
const CHANGES = [
  { at: 500, section: 0, freq: 900, samples: 700 },
  { at: 800, section: -1, freq: 4000, samples: 960 },
  { at: 1000, section: 0, freq: 300, samples: 500 },
] as const;

function ran(stages: readonly number[], block: number, gliding: boolean, channels: number, beside: boolean) {
  const chains = Array.from({ length: channels }, (_, c) => chain(stages, c));
  const set = put(
    k,
    chains.map((_, c) => noise(N, 0.5, 3 + c)),
  );
  const lists = k.x.alloc(4 * channels);
  k.u32(lists, channels).set(chains.map((c) => c.list));
  const table = k.x.alloc(4 * channels);
  const { count } = chains[0]!;
  const work = (from: number, n: number) => {
    k.u32(table, channels).set(chains.map((_, c) => set.at(c) + 4 * from));
    if (beside) k.x.biquadChannels(lists, count, table, channels, n);
    else chains.forEach((c, i) => k.x.biquadChain(c.list, count, set.at(i) + 4 * from, n));
  };
  let done = 0;
  const until = (end: number) => {
    inBlocks(end - done, block, (at, n) => work(done + at, n));
    done = end;
  };
  if (gliding)
    for (const { at, section, freq, samples } of CHANGES) {
      until(at);
      for (const c of chains) k.x.biquadSet(c.sections.at(section)!, coefs(freq, -4), samples);
    }
  until(N);
  return chains.map((_, c) => set.view(c).slice());
}

describe.each(SHAPES.map((s) => [s.join('+'), s] as const))('stages of %s sections', (_, stages) => {
  it.each([false, true])('the length of the blocks changes no sample; gliding: %s', (gliding) => {
    const whole = ran(stages, N, gliding, 1, false);
    for (const block of [1, 7, 128, 480]) expect(ran(stages, block, gliding, 1, false)).toEqual(whole);
  });
  it.each([false, true])('side by side they give what each gives alone; gliding: %s', (gliding) => {
    const alone = ran(stages, 128, gliding, 5, false);
    for (const block of [3, 128, 999]) expect(ran(stages, block, gliding, 5, true)).toEqual(alone);
  });
  it('stages that run apart give what the chain gives', () => {
    const { list, count } = chain(stages, 0);
    const [a, b] = [put(k, [noise(N, 0.5, 3)]), put(k, [noise(N, 0.5, 3)])];
    k.x.biquadChain(list, count, a.at(0), N);
    const apart = chain(stages, 0);
    let at = 0;
    for (const many of stages) {
      k.x.biquadChain(apart.list + 4 * at, many, b.at(0), N);
      at += many + 1;
    }
    expect(b.view(0)).toEqual(a.view(0));
  });
});
