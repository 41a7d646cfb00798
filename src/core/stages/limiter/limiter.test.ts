// The ceiling holds on everything, at every width, for samples and for what stands between them. True peaks
// are measured by an oversampler of its own here: 8 times, 256 taps, in f64.
import { describe, expect, it } from 'vitest';
import { LAYOUTS } from '@/core/speakers';
import { Measure } from '@/core/measure';
import { newKernels, noise, put } from '../../../../tests/support/kernels';
import { dB, gainOf, peak, runStage } from '../../../../tests/support/stages';

const k = newKernels();
const N = 24_000;
const make = (f: (i: number) => number) => Float32Array.from({ length: N }, (_, i) => f(i));
const signals: [string, Float32Array][] = [
  ['noise', noise(N, 4, 11)],
  ['clicks', make((i) => (i % 997 === 0 ? (i % 2 ? 3 : -3) : 0.1))],
  ['squares', make((i) => (Math.floor(i / 50) % 2 ? 1.4 : -1.4))],
  ['fs/4 at 45 degrees', make((i) => 1.4 * Math.sin((Math.PI * i) / 2 + Math.PI / 4))],
  ['fs/6 at 60 degrees', make((i) => 1.2 * Math.sin((Math.PI * i) / 3 + Math.PI / 3))],
  ['bursts near half the rate', make((i) => (Math.floor(i / 700) % 2 ? 2 : 0.1) * Math.sin(2.9 * i))],
];

const OVER = 8;
const HALF = 128;
const filter = Array.from({ length: OVER }, (_, phase) =>
  Float64Array.from({ length: 2 * HALF }, (_, j) => {
    const t = j - HALF + 1 - phase / OVER;
    const r = t / HALF;
    if (Math.abs(r) >= 1) return 0;
    return (t === 0 ? 1 : Math.sin(Math.PI * t) / (Math.PI * t)) * Math.cos((Math.PI * r) / 2) ** 2;
  }),
);

/** Largest magnitude of the band-limited curve through the samples. */
function truePeak(x: Float32Array): number {
  let top = 0;
  for (let i = HALF; i < x.length - HALF; i++) {
    for (const f of filter) {
      let y = 0;
      for (let j = 0; j < f.length; j++) y += f[j]! * x[i + j - HALF + 1]!;
      top = Math.max(top, Math.abs(y));
    }
  }
  return top;
}

// A four-times meter as of BS.1770 cannot see what stands in the last octave's end: the signals for it end at 20 kHz.
const edge = Array.from({ length: 255 }, (_, j) => {
  const t = j - 127;
  const c = (2 * 20_000) / 48_000;
  return (t === 0 ? c : Math.sin(Math.PI * c * t) / (Math.PI * t)) * Math.cos((Math.PI * t) / 256) ** 2;
});
const banded = (x: Float32Array) =>
  x.map((_, i) => {
    let y = 0;
    for (let j = 0; j < edge.length; j++) y += edge[j]! * (x[i + j - 127] ?? 0);
    return y;
  });

// ITU-R BS.1770-4 annex 2: of a tone at the share f of the rate, a meter of n times misses at most
// 20 log10 cos(pi f / n) dB; at 20 of 48 kHz and four times 0.47. EBU Tech 3341 allows a meter 0.4 below.
const MISSED = 0.25;
/** What a four-times meter as of BS.1770 reads, in dBTP. */
function meter(x: Float32Array): number {
  const m = new Measure(k, 48_000, [1], x.length);
  const block = put(k, [x]);
  m.run(block.table, x.length);
  block.free();
  const { truePeak } = m.result();
  m.free();
  return truePeak;
}

const widths = [...new Set(LAYOUTS.map((l) => l.speakers.length))];
const ceiling = -1;

describe.each([
  ['linked', 1],
  ['each alone', 0],
])('%s', (_, link) => {
  it.each(signals)('sample peaks: %s stays under the ceiling at every width', (_, x) => {
    for (const width of widths) {
      const channels = Array.from({ length: width }, (_, c) => x.map((v) => v * (1 - c / 20)));
      for (const c of runStage(k, 'limiter', { ceiling, link }, channels).out)
        expect(peak(c)).toBeLessThanOrEqual(Math.fround(gainOf(ceiling)));
    }
  });
  it.each(signals)('true peaks: %s stays under the ceiling', (_, x) => {
    const sound = banded(x);
    const { out } = runStage(k, 'limiter', { ceiling, link, limits: 1 }, [sound, sound.map((v) => v * 0.7)]);
    for (const c of out) {
      expect(meter(c)).toBeLessThanOrEqual(ceiling);
      expect(dB(truePeak(c.subarray(8000, 14_000)))).toBeLessThan(ceiling + MISSED);
    }
    expect(dB(truePeak(out[0]!.subarray(8000, 14_000)))).toBeGreaterThan(ceiling - 6);
  });
  it.each(widths)('true peaks: noise in %i channels', (width) => {
    const channels = Array.from({ length: width }, (_, c) => (c < 2 ? banded(noise(N, 3, c + 1)) : noise(N, 3, c + 1)));
    const { out } = runStage(k, 'limiter', { ceiling, link, limits: 1, release: 20 }, channels);
    for (const c of out.slice(0, 2)) expect(dB(truePeak(c.subarray(9000, 11_000)))).toBeLessThan(ceiling + MISSED);
    for (const c of out) expect(meter(c)).toBeLessThanOrEqual(ceiling);
  });
});

it('limiting sample peaks alone lets true peaks through: the two kinds are not the same', () => {
  const { out } = runStage(k, 'limiter', { ceiling: -0.2 }, [noise(N, 4, 11)]);
  expect(dB(truePeak(out[0]!.subarray(8000, 14_000)))).toBeGreaterThan(0.2);
});

it('true peaks: what is below is only delayed', () => {
  const x = noise(6000, 0.3, 2);
  const { out } = runStage(k, 'limiter', { ceiling: -1, limits: 1 }, [x]);
  const delay = 2 * (72 - 1 + 31);
  expect(out[0]!.subarray(delay)).toEqual(x.subarray(0, 6000 - delay));
});
