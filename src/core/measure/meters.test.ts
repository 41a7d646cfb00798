// Levels, phase, spectrum and speech: against closed forms, and the same figures in any block size.
import { describe, expect, it } from 'vitest';
import { newKernels, inBlocks, noise, put, sine } from '../../../tests/support/kernels';
import { layoutOf, loudnessWeights, mirrorPairs, LAYOUTS } from '@/core/speakers';
import {
  correlationOf,
  Measure,
  type MeasureOptions,
  speechStretches,
  Spectrum,
  thirdOctaveBand,
  THIRD_OCTAVES,
} from '.';

const k = newKernels();
const RATE = 48000;
const ALL: MeasureOptions = { levels: { pairs: [[0, 1]] }, spectrum: true, dialogue: true };

function measure(channels: Float32Array[], asked = ALL, block = 4800) {
  const options = channels.length > 1 ? asked : { ...asked, levels: { pairs: [] } };
  const m = new Measure(
    k,
    RATE,
    channels.map(() => 1),
    block,
    options,
  );
  inBlocks(channels[0]!.length, block, (at, n) => {
    const set = put(
      k,
      channels.map((c) => c.subarray(at, at + n)),
    );
    m.run(set.table, n);
    set.free();
  });
  const result = m.result();
  m.free();
  return result;
}

describe('levels of a channel', () => {
  it('a full-scale sine: peak 0, RMS -3.01 dBFS, crest 3.01 dB', () => {
    const { levels } = measure([sine(RATE, RATE, 1000, 1), sine(RATE, RATE, 1000, 0.1)]);
    expect(levels![0]!.rms).toBeCloseTo(-3.0103, 4);
    expect(levels![0]!.crest).toBeCloseTo(3.0103, 3);
    expect(levels![1]!.rms).toBeCloseTo(-23.0103, 4);
    expect(levels![1]!.samplePeak).toBeCloseTo(-20, 3);
  });
  it('white noise of ±a has an RMS of a over the root of three', () => {
    expect(measure([noise(RATE * 4, 0.5), noise(RATE * 4, 0.5, 2)]).levels![0]!.rms).toBeCloseTo(
      20 * Math.log10(0.5 / Math.sqrt(3)),
      1,
    );
  });
  it('finds direct current and counts overs', () => {
    const x = sine(RATE, RATE, 1000, 0.5).map((v) => v + 0.125);
    x[100] = 1;
    x[101] = -1.2;
    const [l] = measure([x, x]).levels!;
    expect(l!.dc).toBeCloseTo(0.125, 4);
    expect(l!.overs).toBe(2);
  });
  it('takes the quietest half second that is not digital silence for the noise floor', () => {
    const x = new Float32Array(RATE * 6);
    x.set(sine(RATE * 2, RATE, 300, 0.5), 0);
    x.set(sine(RATE * 2, RATE, 300, 0.001), RATE * 2);
    const [l] = measure([x, x]).levels!;
    expect(l!.noiseFloor).toBeLessThan(-60);
    const room = x.subarray(0, RATE * 4);
    expect(measure([room, room]).levels![0]!.noiseFloor).toBeCloseTo(-63.01, 1);
    expect(measure([new Float32Array(RATE), new Float32Array(RATE)]).levels![0]!.noiseFloor).toBe(-Infinity);
  });
});

describe('phase correlation', () => {
  it.each([0, 30, 60, 90, 120, 180])('of sines %i degrees apart is the cosine', (degrees) => {
    const { correlations } = measure([sine(RATE, RATE, 1000, 0.5), sine(RATE, RATE, 1000, 0.2, degrees)]);
    expect(correlations![0]!.value).toBeCloseTo(Math.cos((degrees * Math.PI) / 180), 6);
  });
  it('of unlike noises is near zero, of silence zero', () => {
    expect(Math.abs(measure([noise(RATE * 2, 0.5, 1), noise(RATE * 2, 0.5, 9)]).correlations![0]!.value)).toBeLessThan(
      0.02,
    );
    expect(correlationOf(0, 0, 1)).toBe(0);
  });
  it('names its lowest moment', () => {
    const a = sine(RATE, RATE, 500, 0.3);
    const b = a.map((v, i) => (i >= RATE / 2 && i < RATE / 2 + 4800 ? -v : v));
    const [c] = measure([a, b]).correlations!;
    expect(c!.lowest).toBeCloseTo(-1, 6);
    expect(c!.value).toBeCloseTo(0.8, 3);
  });
  it('pairs are those that stand left and right of each other', () => {
    expect(mirrorPairs(layoutOf('5.1'))).toEqual([
      [0, 1],
      [4, 5],
    ]);
    for (const l of LAYOUTS)
      for (const [a, b] of mirrorPairs(l)) expect(l.speakers[a]!.label.replace('L', 'R')).toBe(l.speakers[b]!.label);
    expect(mirrorPairs(layoutOf('9.1.6'))).toHaveLength(7);
  });
});

describe('spectrum', () => {
  it('band centres and edges are those of IEC 61260-1 (base ten; values from memory)', () => {
    expect(THIRD_OCTAVES).toHaveLength(31);
    expect(thirdOctaveBand(1000)).toEqual({ centre: 1000, low: 1000 * 10 ** -0.05, high: 1000 * 10 ** 0.05 });
    expect(thirdOctaveBand(31.5).centre).toBeCloseTo(31.623, 3);
    expect(thirdOctaveBand(8000).centre).toBeCloseTo(7943.28, 2);
    for (let i = 1; i < THIRD_OCTAVES.length; i++)
      expect(thirdOctaveBand(THIRD_OCTAVES[i]!).low).toBeCloseTo(thirdOctaveBand(THIRD_OCTAVES[i - 1]!).high, 6);
  });
  it.each([100, 1000, 4000, 12500])('a sine at %i Hz shows its mean square in its band', (f) => {
    const { spectrum } = measure([sine(RATE * 4, RATE, thirdOctaveBand(f).centre, 0.5)]);
    for (const b of spectrum!) {
      if (b.frequency === f) expect(b.level).toBeCloseTo(-9.03, 1);
      else expect(b.level).toBeLessThan(-30);
    }
  });
  it('white noise rises by 1 dB a band, and the bins hold all of its power (Parseval)', () => {
    const x = noise(RATE * 20, 0.5);
    const s = new Spectrum(k, RATE);
    const set = put(k, [x]);
    s.run(set.at(0), x.length);
    const total = s.bins().reduce((a, b) => a + b, 0);
    expect(10 * Math.log10(total)).toBeCloseTo(20 * Math.log10(0.5 / Math.sqrt(3)), 1);
    const bands = s.thirdOctaves().filter((b) => b.frequency >= 500);
    for (let i = 1; i < bands.length; i++)
      expect(Math.abs(bands[i]!.level - bands[i - 1]!.level - 1)).toBeLessThan(0.5);
    s.free();
    set.free();
  });
  it('channels add as powers, the LFE left out', () => {
    const tone = sine(RATE * 2, RATE, 1000, 0.1);
    const m = new Measure(k, RATE, loudnessWeights(layoutOf('5.1')), RATE * 2, { spectrum: true });
    const set = put(k, [tone, tone, tone, tone.map((v) => v * 9), tone, tone]);
    m.run(set.table, RATE * 2);
    const at1k = m.result().spectrum!.find((b) => b.frequency === 1000)!.level;
    expect(at1k).toBeCloseTo(-23.01 + 10 * Math.log10(5), 1);
    m.free();
    set.free();
  });
});

describe('speech', () => {
  /** Syllables: 2 to 3 bursts a second of a voice-like buzz with pauses. */
  const syllables = (seconds: number, level: number) => {
    const buzz = Float32Array.from({ length: RATE * seconds }, (_, i) => {
      const t = i / RATE;
      const open = t % 0.3 < 0.18 ? Math.sin((Math.PI * (t % 0.3)) / 0.18) : 0;
      let v = 0;
      for (let h = 1; h < 20; h++) v += Math.sin(2 * Math.PI * 130 * h * t) / (1 + Math.abs(h - 5));
      return level * open * v * 0.25;
    });
    return buzz;
  };
  it('bursts of a voice-like sound are found, a steady tone, a chord and noise are not', () => {
    expect(measure([syllables(10, 0.3)]).dialogue!.share).toBeGreaterThan(0.8);
    for (const x of [sine(RATE * 10, RATE, 500, 0.3), noise(RATE * 10, 0.3), new Float32Array(RATE * 10)])
      expect(measure([x]).dialogue!.share).toBe(0);
    const chord = sine(RATE * 10, RATE, 262, 0.1).map((v, i) => v + 0.1 * Math.sin((2 * Math.PI * 392 * i) / RATE));
    expect(measure([chord]).dialogue!.share).toBe(0);
  });
  it('measures what is spoken, not what is around it', () => {
    const quiet = syllables(10, 0.1);
    const alone = measure([quiet]).dialogue!.loudness;
    const x = new Float32Array(RATE * 20);
    x.set(quiet, 0);
    x.set(sine(RATE * 9, RATE, 800, 0.7), RATE * 11);
    const both = measure([x]);
    expect(Math.abs(both.dialogue!.loudness - alone)).toBeLessThan(0.5);
    expect(both.integrated).toBeGreaterThan(alone + 10);
    expect(both.dialogue!.share).toBeGreaterThan(0.4);
    expect(both.dialogue!.share).toBeLessThan(0.55);
  });
  it('needs band, pauses and rises: each alone is not enough', () => {
    const frames = 100;
    const steady = new Float64Array(frames).fill(0.01);
    expect(speechStretches(steady, steady).some(Boolean)).toBe(false);
    const pulsed = steady.map((v, i) => (i % 15 < 8 ? v : 1e-7));
    expect(speechStretches(pulsed, pulsed).some(Boolean)).toBe(true);
    // The same pulses with most of the power outside the band: a drum.
    expect(
      speechStretches(
        pulsed,
        pulsed.map((v) => v * 4),
      ).some(Boolean),
    ).toBe(false);
  });
});

it('all figures are the same in blocks of 64, 500, 4096 and at once, and after a new start', () => {
  const x = noise(RATE * 2, 0.4, 3);
  const y = sine(RATE * 2, RATE, 440, 0.3);
  const [first, ...others] = [64, 500, 4096, RATE * 2].map((block) => measure([x, y], ALL, block));
  for (const o of others) {
    expect(o.dialogue).toEqual(first!.dialogue);
    expect(o.spectrum).toEqual(first!.spectrum);
    o.levels!.forEach((l, c) => {
      for (const key of Object.keys(l) as (keyof typeof l)[]) expect(l[key]).toBeCloseTo(first!.levels![c]![key], 9);
    });
    expect(o.correlations![0]!.value).toBeCloseTo(first!.correlations![0]!.value, 12);
  }
  const m = new Measure(k, RATE, [1, 1], RATE * 2, ALL);
  const set = put(k, [x, y]);
  m.run(set.table, RATE * 2);
  const once = m.result();
  m.reset();
  m.run(set.table, RATE * 2);
  expect(m.result()).toEqual(once);
  m.free();
  set.free();
});
