import { describe, expect, it } from 'vitest';
import { inBlocks, newKernels, noise, put, sine } from '../../../tests/support/kernels';
import { defaultsOf, STAGE_KINDS, stageKind, type StageValues } from '.';

const RATE = 48000;
const k = newKernels();

function run(type: string, values: StageValues, channels: Float32Array[], size = 4096, on = true) {
  const kind = stageKind(type);
  const runner = kind.create(k, RATE, channels.length);
  runner.set({ ...defaultsOf(kind), ...values }, on);
  const out = channels.map((c) => c.slice());
  inBlocks(channels[0]!.length, size, (at, n) => {
    const block = put(
      k,
      out.map((c) => c.subarray(at, at + n)),
    );
    runner.run(block.table, n);
    out.forEach((c, i) => c.set(block.view(i, n), at));
    block.free();
  });
  const reduction = runner.reduction();
  runner.free();
  return { out, reduction };
}

const rms = (x: Float32Array) => Math.sqrt(x.reduce((s, v) => s + v * v, 0) / x.length);
const dB = (x: number) => 20 * Math.log10(x);

describe('every stage', () => {
  const signal = [noise(9000, 0.9, 3), noise(9000, 0.5, 5)];
  const working: Record<string, StageValues> = {
    eq: { g1: 4, g2: -3 },
    gate: { threshold: 0, ratio: 4, range: -30, hold: 0 },
    compressor: { threshold: -30, makeup: 3 },
    limiter: { ceiling: -9 },
    deEsser: { threshold: -50 },
    trim: { gain: -6, polarity: 1 },
    delay: { time: 3 },
  };
  it.each(STAGE_KINDS.map((s) => s.type))('%s gives the same bits in blocks of 64, 128, 500 and 4096', (type) => {
    const results = [64, 128, 500, 4096].map((size) => run(type, working[type] ?? {}, signal, size).out);
    for (const r of results.slice(1)) expect(r).toEqual(results[0]);
    expect(results[0]).not.toEqual(signal);
  });
  it.each(STAGE_KINDS.map((s) => s.type))('%s switched off only delays, by what it reports', (type) => {
    const { out } = run(type, working[type] ?? {}, signal, 500, false);
    const delay = stageKind(type).delay(defaultsOf(stageKind(type)), RATE);
    expect(out[0]!.subarray(delay)).toEqual(signal[0]!.subarray(0, 9000 - delay));
  });
  it.each(STAGE_KINDS.map((s) => [s.type, s] as const))(
    '%s keeps its presets and defaults within its limits',
    (_, kind) => {
      for (const values of [defaultsOf(kind), ...kind.presets.map((p) => p.values)]) {
        for (const [id, v] of Object.entries(values)) {
          const p = kind.params.find((q) => q.id === id)!;
          expect(v).toBeGreaterThanOrEqual(p.min);
          expect(v).toBeLessThanOrEqual(p.max);
        }
      }
    },
  );
});

describe('low cut', () => {
  const at = (values: StageValues, freqs: number[]) => stageKind('lowCut').response!(k, RATE, values, freqs);
  it.each([12, 24, 48])('%i dB/oct is -3.01 dB at its corner (Butterworth)', (slope) => {
    expect(at({ frequency: 70, slope }, [70])[0]).toBeCloseTo(-3.01, 2);
  });
  it('of second order is -12.3 dB one octave below', () => {
    expect(at({ frequency: 70, slope: 12 }, [35])[0]).toBeCloseTo(-12.3, 1);
  });
  it('does to a sine what its curve says', () => {
    for (const f of [40, 70, 200]) {
      const { out } = run('lowCut', { frequency: 70, slope: 12 }, [sine(RATE * 2, RATE, f, 0.5)]);
      const got = dB(rms(out[0]!.subarray(RATE)) / (0.5 * Math.SQRT1_2));
      expect(got).toBeCloseTo(at({ frequency: 70, slope: 12 }, [f])[0]!, 1);
    }
  });
});

// Bristow-Johnson, "Cookbook formulae for audio equalizer biquad filter coefficients": peakingEQ, written
// out here once more from the paper's H(s), evaluated by the bilinear transform's frequency mapping.
describe('EQ bell against the cookbook', () => {
  const analog = (f: number, f0: number, q: number, db: number) => {
    const a = Math.pow(10, db / 40);
    const w = Math.tan((Math.PI * f) / RATE) / Math.tan((Math.PI * f0) / RATE);
    // The cookbook's digital Q equals the analogue one when alpha = sin(w0) / 2Q; the mapping keeps it at f0.
    const re = 1 - w * w;
    return 10 * Math.log10((re * re + ((w * a) / q) ** 2) / (re * re + (w / (a * q)) ** 2));
  };
  it.each([
    [1000, 1, 6],
    [3200, 0.8, -4],
    [160, 2, 9],
  ])('%i Hz, Q %d, %i dB', (f0, q, db) => {
    const freqs = [50, 100, 200, 500, 1000, 2000, 4000, 8000, 15000];
    const got = stageKind('eq').response!(k, RATE, { f1: f0, q1: q, g1: db }, freqs);
    got.forEach((v, i) => expect(v).toBeCloseTo(analog(freqs[i]!, f0, q, db), 6));
  });
});

// Giannoulis, Massberg, Reiss, J. Audio Eng. Soc. 60(6), 2012, equation 4.
describe('compressor', () => {
  const values = { threshold: -20, ratio: 4, knee: 8, attack: 5, release: 60, makeup: 0 };
  const curve = (x: number) => {
    const { threshold: t, ratio: r, knee: w } = values;
    if (2 * (x - t) < -w) return x;
    if (2 * Math.abs(x - t) <= w) return x + ((1 / r - 1) * (x - t + w / 2) ** 2) / (2 * w);
    return t + (x - t) / r;
  };
  const levels = [-60, -30, -24, -22, -20, -18, -16, -10, 0];
  it('has the static curve of the paper', () => {
    stageKind('compressor').transfer!(k, values, levels).forEach((v, i) => expect(v).toBeCloseTo(curve(levels[i]!), 4));
  });
  it('brings a steady tone to the curve', () => {
    for (const level of [-30, -18, -6]) {
      const { out, reduction } = run('compressor', { ...values, release: 1000 }, [
        sine(RATE, RATE, 1000, Math.pow(10, level / 20)),
      ]);
      expect(dB(rms(out[0]!.subarray(RATE / 2)) * Math.SQRT2)).toBeCloseTo(curve(level), 0);
      expect(reduction!).toBeCloseTo(curve(level) - level, 0);
    }
  });
  it('covers 63 % of the way in its attack time', () => {
    const attack = 50;
    const step = new Float32Array(RATE).fill(0.5, RATE / 4);
    const { out } = run('compressor', { ...values, knee: 0, attack }, [step]);
    const depth = dB(0.5) - (-20 + (dB(0.5) + 20) / 4);
    const at = RATE / 4 + (attack / 1000) * RATE + 16;
    expect(dB(0.5) - dB(out[0]![at]!)).toBeCloseTo(depth * (1 - Math.exp(-1)), 0);
  });
  it('treats its channels alike', () => {
    const { out } = run('compressor', values, [sine(RATE, RATE, 500, 0.8), sine(RATE, RATE, 500, 0.01)]);
    const ratio = rms(out[1]!) / rms(out[0]!);
    expect(ratio).toBeCloseTo(0.01 / 0.8, 4);
  });
});

describe('gate', () => {
  it('takes away its range below, nothing above', () => {
    const values = { threshold: -40, ratio: 10, range: -12, attack: 1, hold: 0, release: 20 };
    const loud = run('gate', values, [sine(RATE, RATE, 1000, 0.5)]).out[0]!;
    const soft = run('gate', values, [sine(RATE, RATE, 1000, 0.001)]).out[0]!;
    expect(rms(loud.subarray(RATE / 2))).toBeCloseTo(0.5 * Math.SQRT1_2, 3);
    expect(dB(rms(soft.subarray(RATE / 2)) / (0.001 * Math.SQRT1_2))).toBeCloseTo(-12, 1);
  });
  it('stays open for its hold time', () => {
    const burst = new Float32Array(RATE).fill(0.0005);
    burst.fill(0.5, 0, 4800);
    const values = { threshold: -40, ratio: 20, range: -40, attack: 1, hold: 300, release: 10 };
    const out = run('gate', values, [burst]).out[0]!;
    expect(out[4800 + 0.25 * RATE]!).toBeCloseTo(0.0005, 6);
    expect(out[4800 + 0.5 * RATE]!).toBeLessThan(0.00005);
  });
});

describe('limiter', () => {
  const ceiling = -0.2;
  const top = Math.fround(Math.pow(10, ceiling / 20));
  const clicks = Float32Array.from({ length: 20000 }, (_, i) => (i % 997 === 0 ? (i % 2 ? 3 : -3) : 0.1));
  const squares = Float32Array.from({ length: 20000 }, (_, i) => (Math.floor(i / 50) % 2 ? 1.4 : -1.4));
  it.each([
    ['noise', noise(20000, 4, 11)],
    ['clicks', clicks],
    ['squares', squares],
  ])('lets no sample of %s over its ceiling', (_, signal) => {
    for (const width of [1, 2, 6]) {
      const channels = Array.from({ length: width }, (_, c) => signal.map((v) => v * (1 - c * 0.1)));
      for (const c of run('limiter', { ceiling }, channels).out)
        expect(Math.max(...c.map(Math.abs))).toBeLessThanOrEqual(top);
    }
  });
  it('leaves what is below untouched but for the delay', () => {
    const signal = noise(5000, 0.5, 2);
    const { out, reduction } = run('limiter', { ceiling }, [signal]);
    expect(out[0]!.subarray(71)).toEqual(signal.subarray(0, 5000 - 71));
    expect(reduction).toBeCloseTo(0, 9);
  });
  it('agrees with a plain reading of its description', () => {
    const signal = noise(3000, 1.5, 9);
    const window = 72;
    const one = 2 ** 30;
    const recovery = Math.fround(1 - Math.exp(-1 / (0.08 * RATE)));
    let gain = one;
    const wanted = [...signal].map((x) => {
      gain += Math.trunc(Math.fround(Math.fround(one - gain) * recovery));
      if (gain > one - 4096) gain = one;
      if (Math.abs(x) > top) gain = Math.min(gain, Math.trunc(one * (top / Math.abs(x))));
      return gain;
    });
    const minima = wanted.map((_, i) => Math.min(...wanted.slice(Math.max(0, i - window + 1), i + 1)));
    const means = minima.map((_, i) => {
      let sum = 0;
      for (let j = i - window + 1; j <= i; j++) sum += j < 0 ? one : minima[j]!;
      return sum / (window * one);
    });
    const { out } = run('limiter', { ceiling, release: 80 }, [signal]);
    for (let i = window - 1; i < 3000; i++) expect(out[0]![i]!).toBeCloseTo(signal[i - window + 1]! * means[i]!, 5);
  });
});
