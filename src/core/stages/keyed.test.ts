// Detectors: mean square, hysteresis, keys, and channels with gains of their own.
import { describe, expect, it } from 'vitest';
import { newKernels, noise, sine } from '../../../tests/support/kernels';
import { dB, firstDifference, gainOf, rms, runStage } from '../../../tests/support/stages';

const k = newKernels();
const RATE = 48000;
const tone = (db: number, freq = 1000, seconds = 1) => sine(RATE * seconds, RATE, freq, gainOf(db));
const late = (x: Float32Array) => x.subarray(x.length / 2);

describe('compressor that listens to the mean square', () => {
  const values = { threshold: -30, ratio: 4, knee: 0, attack: 5, release: 80, detector: 1, window: 30 };
  // The mean square of a sine stands 3.01 dB below its peak.
  it('takes a sine for 3 dB softer than its peaks', () => {
    const { reduction } = runStage(k, 'compressor', values, [tone(-10)]);
    expect(reduction!).toBeCloseTo((1 / 4 - 1) * (-10 - 3.01 + 30), 1);
  });
  it('does not hear a click that a peak detector hears', () => {
    const click = new Float32Array(RATE);
    click[RATE / 2] = 1;
    const fast = { ...values, attack: 0.5 };
    const byPeak = runStage(k, 'compressor', { ...fast, detector: 0 }, [click]).reduction!;
    const byRms = runStage(k, 'compressor', fast, [click]).reduction!;
    expect(byPeak).toBeLessThan(-5);
    expect(byRms).toBeGreaterThan(byPeak / 2);
  });
  it('covers 63 % of the mean square in its window', () => {
    // A step of level 0 dB: after one window the mean square is at 1 - 1/e, 1.99 dB below its end.
    const step = new Float32Array(RATE).fill(1, RATE / 2);
    const { out } = runStage(k, 'compressor', { ...values, window: 100, attack: 0.5, ratio: 20, threshold: -20 }, [
      step,
    ]);
    const at = RATE / 2 + 0.1 * RATE + 32;
    const expected = (1 / 20 - 1) * (10 * Math.log10(1 - Math.exp(-1)) + 20);
    expect(dB(out[0]![at]!)).toBeCloseTo(expected, 0);
  });
});

describe('release', () => {
  it.each([40, 100, 400])('covers 63 %% of the way back in %i ms', (release) => {
    const x = new Float32Array(RATE).fill(0.5);
    x.fill(0.01, RATE / 4);
    const values = { threshold: -20, ratio: 4, knee: 0, attack: 1, release };
    const { out } = runStage(k, 'compressor', values, [x]);
    const depth = dB(0.5) * 1 + 20 - (dB(0.5) + 20) / 4;
    const at = RATE / 4 + Math.round((release / 1000) * RATE) + 16;
    expect(dB(out[0]![at]!) - dB(0.01)).toBeCloseTo(-depth * Math.exp(-1), 0);
  });
});

describe('the filter in front of the detector', () => {
  it('keeps low frequencies from turning the voice down', () => {
    const values = { threshold: -40, ratio: 4, attack: 5, release: 80 };
    const low = tone(-10, 50);
    expect(runStage(k, 'compressor', values, [low]).reduction!).toBeLessThan(-15);
    // Second-order Butterworth at 500 Hz: 50 Hz is 40 dB down.
    expect(runStage(k, 'compressor', { ...values, keyLowCut: 500 }, [low]).reduction!).toBeGreaterThan(-0.5);
    expect(runStage(k, 'compressor', { ...values, keyLowCut: 500 }, [tone(-10, 4000)]).reduction!).toBeLessThan(-15);
  });
  it('does not touch the sound itself', () => {
    const quiet = noise(RATE, 0.001, 5);
    expect(firstDifference(runStage(k, 'compressor', { threshold: -20, keyLowCut: 800 }, [quiet]).out[0]!, quiet)).toBe(
      -1,
    );
  });
});

describe('a key', () => {
  const values = { threshold: -30, ratio: 4, knee: 0, attack: 2, release: 50 };
  const music = [tone(-40, 300), tone(-40, 400)];
  it('of one channel turns all channels down as it gets loud, whatever they hold', () => {
    const { out, reduction } = runStage(k, 'compressor', values, music, { key: [tone(-10)] });
    expect(reduction!).toBeCloseTo((1 / 4 - 1) * 20, 0);
    out.forEach((c, i) => expect(dB(rms(late(c)) / rms(late(music[i]!)))).toBeCloseTo(-15, 0));
  });
  it('that is silent leaves loud sound alone', () => {
    const loud = [tone(-3), tone(-3)];
    const { out } = runStage(k, 'compressor', values, loud, { key: [new Float32Array(RATE)] });
    out.forEach((c, i) => expect(firstDifference(c, loud[i]!)).toBe(-1));
  });
  it('of as many channels, each alone, keys each channel by its own', () => {
    const { out } = runStage(k, 'compressor', { ...values, link: 0 }, music, {
      key: [tone(-10), new Float32Array(RATE)],
    });
    expect(dB(rms(late(out[0]!)) / rms(late(music[0]!)))).toBeCloseTo(-15, 0);
    expect(firstDifference(out[1]!, music[1]!)).toBe(-1);
  });
  it('opens a gate', () => {
    const gated = { threshold: -30, ratio: 20, range: -60, attack: 1, hold: 0, release: 20 };
    const shut = runStage(k, 'gate', gated, [tone(-10)], { key: [new Float32Array(RATE)] }).out[0]!;
    expect(dB(rms(late(shut)))).toBeLessThan(-60);
    const open = runStage(k, 'gate', gated, [tone(-50)], { key: [tone(-10)] }).out[0]!;
    expect(dB(rms(late(open)))).toBeCloseTo(-53, 0);
  });
});

describe('channels each alone', () => {
  it('a loud left does not turn down the right', () => {
    const values = { threshold: -30, ratio: 4, link: 0 };
    const [left, right] = [tone(-6), tone(-40, 500)];
    const { out } = runStage(k, 'compressor', values, [left, right]);
    expect(dB(rms(late(out[0]!)) / rms(late(left)))).toBeLessThan(-10);
    expect(firstDifference(out[1]!, right)).toBe(-1);
  });
  it('linked again, they meet', () => {
    const values = { threshold: -30, ratio: 4, attack: 5, release: 50, link: 0 };
    const { out } = runStage(k, 'compressor', values, [tone(-6, 1000, 2), tone(-40, 500, 2)], {
      block: 480,
      before: (runner, at, all) => at === RATE && runner.set({ ...all, link: 1 }, true),
    });
    const reduced = (x: Float32Array, from: number) => dB(rms(x.subarray(from, from + 4800)));
    expect(reduced(out[1]!, RATE - 4800)).toBeCloseTo(-43, 0);
    expect(reduced(out[1]!, 2 * RATE - 4800)).toBeCloseTo(-43 - 18, 0);
  });
});

describe('hysteresis of the gate', () => {
  const values = { threshold: -30, ratio: 20, range: -40, attack: 0.5, hold: 0, release: 10, hysteresis: 6 };
  // 100 ms each: under it, over it, between closing and opening level, under the closing level.
  const levels = [-34, -28, -34, -38];
  const parts = Float32Array.from({ length: RATE * 0.4 }, (_, i) => gainOf(levels[Math.floor(i / 4800)]!));
  const gains = (v: object) => {
    const { out } = runStage(k, 'gate', { ...values, ...v }, [parts]);
    return levels.map((l, i) => dB(out[0]![i * 4800 + 4000]!) - l);
  };
  it('opens at the threshold and closes that much below', () => {
    const [before, open, between, closed] = gains({});
    expect(before).toBeCloseTo(-40, 0);
    expect(open).toBeCloseTo(0, 1);
    expect(between).toBeCloseTo(0, 1);
    expect(closed).toBeCloseTo(-40, 0);
  });
  it('of 0 dB closes where it opens', () => {
    expect(gains({ hysteresis: 0 })[2]).toBeCloseTo(-40, 0);
  });
});

describe('de-esser', () => {
  const sibilant = tone(-10, 6500);
  const both = tone(-20, 300).map((v, i) => v + sibilant[i]!);
  const values = { frequency: 6500, q: 1, threshold: -30, ratio: 4, attack: 1, release: 40 };
  it('turns a sibilant band down by its curve and leaves the vowel', () => {
    const { out, reduction } = runStage(k, 'deEsser', values, [both]);
    expect(reduction!).toBeCloseTo((1 / 4 - 1) * 20, 0);
    const level = (freq: number) => {
      let [re, im] = [0, 0];
      const x = late(out[0]!);
      x.forEach((v, i) => {
        re += v * Math.cos((2 * Math.PI * freq * i) / RATE);
        im += v * Math.sin((2 * Math.PI * freq * i) / RATE);
      });
      return dB((2 * Math.hypot(re, im)) / x.length);
    };
    expect(level(300)).toBeCloseTo(-20, 0);
    expect(level(6500)).toBeCloseTo(-25, 0);
  });
  it('leaves sound without sibilants as it is, to the bit', () => {
    const vowel = tone(-10, 300);
    expect(firstDifference(runStage(k, 'deEsser', values, [vowel]).out[0]!, vowel)).toBe(-1);
  });
  it('turning down the whole, takes the vowel with it', () => {
    const { out } = runStage(k, 'deEsser', { ...values, works: 1 }, [both]);
    expect(dB(rms(late(out[0]!)) / rms(late(both)))).toBeCloseTo(-15, 0);
  });
});

describe('trim and delay', () => {
  it('trim turns over and raises without saturating', () => {
    const x = noise(1000, 0.9, 4);
    const { out } = runStage(k, 'trim', { gain: 20, polarity: 1 }, [x]);
    out[0]!.forEach((v, i) => expect(v).toBeCloseTo(-10 * x[i]!, 5));
  });
  it.each([0.5, 10, 1000])('delay of %d ms comes that many samples later', (time) => {
    const x = noise(60_000, 0.9, 4);
    const by = Math.round((time / 1000) * RATE);
    const { out } = runStage(k, 'delay', { time }, [x]);
    expect(firstDifference(out[0]!.subarray(by), x.subarray(0, x.length - by))).toBe(-1);
    expect(Math.max(...out[0]!.subarray(0, by))).toBe(0);
  });
});
