import { describe, expect, it } from 'vitest';
import { gainProposal, LineListener, PairListener, proposedGain } from '.';
import { noise, sine } from '../../../tests/support/kernels';

const RATE = 48000;
const listen = (samples: Float32Array, block = 4800) => {
  const line = new LineListener(RATE);
  for (let at = 0; at < samples.length; at += block) line.run(samples.subarray(at, at + block));
  return line.facts();
};
const sum = (...parts: Float32Array[]) => parts[0]!.map((_, i) => parts.reduce((s, p) => s + p[i]!, 0));
const SECONDS = 3 * RATE;

describe('a line that is listened to', () => {
  it('peak, headroom and crest of a sine are those of a sine', () => {
    const f = listen(sine(SECONDS, RATE, 997, 0.5));
    expect(f.peak).toBeCloseTo(-6.02, 2);
    // The crest factor of a sine is the square root of two.
    expect(f.crest).toBeCloseTo(3.01, 2);
    expect(f).toMatchObject({ overs: 0, hum: null, silent: false, seconds: 3 });
  });
  it('the floor is what remains in the quietest tenth of a second', () => {
    const speech = sine(SECONDS, RATE, 300, 0.5).map((x, i) => (i > 60000 && i < 80000 ? x * 0.001 : x));
    expect(listen(speech).floor).toBeCloseTo(-6.02 - 3.01 - 60, 0);
  });
  it('counts overs', () => {
    expect(listen(sine(SECONDS, RATE, 100, 1.5).map((x) => Math.max(-1, Math.min(1, x)))).overs).toBeGreaterThan(1000);
  });
  it.each([50, 60] as const)(
    'hum of %i Hz under noise is named with its level, whatever the harmonics',
    (frequency) => {
      const hum = sum(
        sine(SECONDS, RATE, frequency, 0.004),
        sine(SECONDS, RATE, frequency * 3, 0.003),
        noise(SECONDS, 0.0005),
      );
      const found = listen(hum).hum!;
      expect(found.frequency).toBe(frequency);
      expect(found.level).toBeCloseTo(10 * Math.log10((0.004 ** 2 + 0.003 ** 2) / 2), 0);
    },
  );
  it('a voice that holds the pitch of the mains pauses, hum does not', () => {
    const voice = sine(SECONDS, RATE, 60, 0.05).map((x, i) => (i % 48000 < 40000 ? x : 0));
    expect(listen(sum(voice, noise(SECONDS, 0.0005))).hum).toBeNull();
  });
  it('noise, speech-like low sound and silence are no hum', () => {
    expect(listen(noise(SECONDS, 0.1)).hum).toBeNull();
    expect(listen(sine(SECONDS, RATE, 113, 0.1)).hum).toBeNull();
    expect(listen(new Float32Array(SECONDS))).toMatchObject({ hum: null, silent: true, peak: -Infinity });
  });
  it('a constant part is told as a share of full scale', () => {
    expect(listen(noise(SECONDS, 0.1).map((x) => x + 0.02)).offset).toBeCloseTo(0.02, 3);
  });
  it('does not depend on the blocks', () => {
    const x = sum(sine(SECONDS, RATE, 50, 0.01), noise(SECONDS, 0.05));
    expect(listen(x, 128)).toEqual(listen(x, 9999));
  });
});

describe('neighbours', () => {
  it('one sound on both correlates, with swapped poles the other way round', () => {
    const a = noise(RATE, 0.2);
    const run = (b: Float32Array) => {
      const pair = new PairListener();
      pair.run(a, b);
      return pair.correlation;
    };
    expect(run(a)).toBeCloseTo(1, 6);
    expect(run(a.map((x) => -x * 0.3))).toBeCloseTo(-1, 6);
    expect(Math.abs(run(noise(RATE, 0.2, 7)))).toBeLessThan(0.05);
    expect(run(new Float32Array(RATE))).toBe(0);
  });
});

// Peaks between -10 and -6 dBFS: common practice of the trade, no source.
describe('the gain to set', () => {
  it.each([
    [-8, 0],
    [-10, 0],
    [-6, 0],
    [-20, 12],
    [-1.4, -7],
    [0, -8],
    [-Infinity, 0],
  ])('for a peak of %f dBFS is %i dB', (peak, gain) => {
    expect(gainProposal(peak)).toBe(gain);
  });
});

describe('the gain of a line that clips', () => {
  /** Laplace-distributed amplitudes, as speech has them, so many dB over, and held at full scale. */
  function clipped(over: number): { facts: ReturnType<LineListener['facts']>; truth: number } {
    let seed = 7;
    const uniform = () => ((seed = (seed * 1103515245 + 12345) % 2 ** 31) + 1) / (2 ** 31 + 1);
    const loud = Float32Array.from({ length: 480_000 }, () => (uniform() < 0.5 ? -1 : 1) * -Math.log(uniform()));
    const top = loud.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
    const gain = 10 ** (over / 20) / top;
    const listener = new LineListener(48_000);
    listener.run(loud.map((v) => Math.max(-1, Math.min(1, v * gain))));
    return { facts: listener.facts(), truth: over };
  }
  it.each([3, 10, 20, 30])('that is %d dB over is brought below full scale at once', (over) => {
    const { facts, truth } = clipped(over);
    expect(facts.overs).toBeGreaterThan(0);
    const by = proposedGain(facts, 48_000);
    // The true peak after it, dBFS: no clipping, and not buried either.
    expect(truth + by).toBeLessThan(0);
    expect(truth + by).toBeGreaterThan(-20);
  });
  it('is that of its peak when it does not', () => {
    expect(proposedGain({ peak: -20, overs: 0, seconds: 5 }, 48_000)).toBe(gainProposal(-20));
  });
});
