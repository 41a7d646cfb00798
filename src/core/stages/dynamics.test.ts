// Compressor and gate against plain twins that look at the level in hops of 16 samples, as described in
// src/kernels/dynamics.ts.
import { describe, expect, it } from 'vitest';
import { newKernels, noise, put } from '../../../tests/support/kernels';
import { HOP } from '@/core/kernels';
import { defaultsOf, stageKind, type StageValues } from '.';

const k = newKernels();
const RATE = 48000;

/** Noise whose level changes every 100 ms between loud and very soft. */
const speech = (seed: number) =>
  noise(RATE, 0.9, seed).map((v, i) => v * [1, 0.003, 0.2, 0.03][Math.floor(i / 4800) % 4]!);

function run(type: string, values: StageValues, channels: Float32Array[]): Float32Array[] {
  const kind = stageKind(type);
  const runner = kind.create(k, RATE, channels.length);
  runner.set({ ...defaultsOf(kind), ...values }, true);
  const set = put(k, channels);
  runner.run(set.table, channels[0]!.length);
  const out = channels.map((_, c) => set.view(c).slice());
  runner.free();
  set.free();
  return out;
}

/** Applies the gains that `next` gives hop by hop, a hop later, in a straight line. */
function twin(channels: Float32Array[], next: (levelDb: number) => number): Float32Array[] {
  const out = channels.map((c) => new Float32Array(c.length));
  let from = 1;
  let to = 1;
  for (let h = 0; h < channels[0]!.length; h += HOP) {
    let peak = 0;
    for (let i = h; i < h + HOP; i++) {
      for (const [c, x] of channels.entries()) {
        peak = Math.max(peak, Math.abs(x[i]!));
        out[c]![i] = x[i]! * (from + ((to - from) * (i - h + 1)) / HOP);
      }
    }
    from = to;
    to = Math.pow(10, next(20 * Math.log10(Math.max(peak, 1e-8))) / 20);
  }
  return out;
}

const pole = (ms: number) => Math.exp(-1 / ((ms / 1000) * (RATE / HOP)));

function closely(got: Float32Array[], expected: Float32Array[]): void {
  let worst = 0;
  got.forEach((c, i) => c.forEach((v, j) => (worst = Math.max(worst, Math.abs(v - expected[i]![j]!)))));
  expect(20 * Math.log10(worst)).toBeLessThan(-80);
}

describe('compressor', () => {
  const settings: StageValues[] = [
    { threshold: -20, ratio: 4, knee: 0, attack: 5, release: 50, makeup: 0 },
    { threshold: -30, ratio: 2.5, knee: 12, attack: 20, release: 200, makeup: 4 },
    { threshold: -12, ratio: 20, knee: 6, attack: 0.5, release: 10, makeup: -2 },
  ];
  it.each(settings)('%j, one channel and two', (v) => {
    for (const channels of [[speech(3)], [speech(3), speech(5)]]) {
      const { threshold = 0, ratio = 1, knee = 0, attack = 0, release = 0, makeup = 0 } = v;
      let reduction = 0;
      const expected = twin(channels, (level) => {
        const over = level - threshold;
        const slope = 1 / ratio - 1;
        const want =
          knee > 0 && 2 * Math.abs(over) <= knee
            ? (slope * (over + knee / 2) ** 2) / (2 * knee)
            : over > 0
              ? slope * over
              : 0;
        const p = want < reduction ? pole(attack) : pole(release);
        reduction = want + p * (reduction - want);
        return reduction + makeup;
      });
      closely(run('compressor', v, channels), expected);
    }
  });
});

describe('gate', () => {
  const settings: StageValues[] = [
    { threshold: -30, ratio: 4, range: -20, attack: 2, hold: 0, release: 50 },
    { threshold: -24, ratio: 10, range: -60, attack: 1, hold: 30, release: 20 },
    { threshold: -40, ratio: 2, range: -12, attack: 10, hold: 100, release: 300 },
  ];
  it.each(settings)('%j, one channel and two', (v) => {
    for (const channels of [[speech(7)], [speech(7), speech(9)]]) {
      const { threshold = 0, ratio = 1, range = 0, attack = 0, hold = 0, release = 0 } = v;
      const holds = Math.trunc((hold / 1000) * (RATE / HOP));
      let reduction = 0;
      let held = 0;
      const expected = twin(channels, (level) => {
        let want = level >= threshold ? 0 : Math.max(range, (level - threshold) * (ratio - 1));
        if (want >= reduction) held = holds;
        else if (held > 0) {
          held--;
          want = reduction;
        }
        const p = want > reduction ? pole(attack) : pole(release);
        reduction = want + p * (reduction - want);
        if (reduction > -0.0001) reduction = 0;
        return reduction;
      });
      closely(run('gate', v, channels), expected);
    }
  });
});

describe('what the meter of gain reduction shows', () => {
  it('is the deepest since it was last asked', () => {
    const kind = stageKind('compressor');
    const runner = kind.create(k, RATE, 1);
    runner.set({ ...defaultsOf(kind), threshold: -40, ratio: 10, attack: 0.5, release: 20 }, true);
    const loud = put(k, [noise(4800, 0.9, 3)]);
    const soft = put(k, [new Float32Array(RATE)]);
    runner.run(loud.table, 4800);
    runner.run(soft.table, RATE);
    expect(runner.reduction()).toBeLessThan(-25);
    expect(runner.reduction()).toBeCloseTo(0, 2);
  });
});
