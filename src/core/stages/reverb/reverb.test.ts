// Decay times by backward integration of the squared impulse response (Schroeder 1965), read between -5 and
// -35 dB and doubled, as ISO 3382-1 reads T30.
import { describe, expect, it } from 'vitest';
import { layoutOf, type LayoutId } from '@/core/speakers';
import { newKernels, noise } from '../../../../tests/support/kernels';
import { dB, rms, runStage } from '../../../../tests/support/stages';
import { lineLengths } from './lines';

const k = newKernels();
const RATE = 48000;

function impulse(width: number, seconds: number, into: number[], values: object, rate = RATE): Float32Array[] {
  const channels = Array.from({ length: width }, (_, c) => {
    const x = new Float32Array(Math.round(seconds * rate));
    if (into.includes(c)) x[0] = 1;
    return x;
  });
  return runStage(k, 'reverb', { mix: 100, preDelay: 0, damping: 0, ...values }, channels, { rate }).out;
}

function t60(x: Float32Array, rate = RATE): number {
  const energy = new Float64Array(x.length);
  let sum = 0;
  for (let i = x.length - 1; i >= 0; i--) energy[i] = sum += x[i]! ** 2;
  const at = (db: number) => energy.findIndex((e) => 10 * Math.log10(e / energy[0]!) <= db) / rate;
  return 2 * (at(-35) - at(-5));
}

/** One octave around `freq`, by two passes of a plain band-pass. */
function octave(x: Float32Array, freq: number): Float32Array {
  const w = (2 * Math.PI * freq) / RATE;
  const alpha = Math.sin(w) / (2 * 1.414);
  let out = x;
  for (let pass = 0; pass < 2; pass++) {
    let [x1, x2, y1, y2] = [0, 0, 0, 0];
    out = out.map((v) => {
      const y = (alpha * (v - x2) + 2 * Math.cos(w) * y1 - (1 - alpha) * y2) / (1 + alpha);
      [x2, x1, y2, y1] = [x1, v, y1, y];
      return y;
    });
  }
  return out;
}

describe('decay time within 5 % of what was set', () => {
  const layouts: LayoutId[] = ['mono', 'stereo', 'quad', '5.1', '7.1.4', '9.1.6'];
  it.each(layouts)('%s, 1.2 s', (id) => {
    for (const c of impulse(layoutOf(id).speakers.length, 2, [0], { decay: 1.2 }))
      expect(Math.abs(t60(c) / 1.2 - 1)).toBeLessThan(0.05);
  });
  it.each([
    [0.4, 4],
    [0.8, 8],
    [2.5, 16],
    [6, 30],
  ])('%d s in a room of %d m', (decay, size) => {
    const [left] = impulse(2, decay * 1.4, [0, 1], { decay, size });
    expect(Math.abs(t60(left!) / decay - 1)).toBeLessThan(0.05);
  });
  it.each([44100, 96000])('at %i Hz', (rate) => {
    const [x] = impulse(1, 2, [0], { decay: 1.2 }, rate);
    expect(Math.abs(t60(x!, rate) / 1.2 - 1)).toBeLessThan(0.05);
  });
  it('each alone', () => {
    const out = impulse(3, 2, [0, 1, 2], { decay: 1.2, link: 0 });
    for (const c of out) expect(Math.abs(t60(c) / 1.2 - 1)).toBeLessThan(0.05);
  });
  it('damping keeps the low band and shortens the high one', () => {
    const [x] = impulse(1, 3, [0], { decay: 2, damping: 60 });
    expect(Math.abs(t60(octave(x!, 125)) / 2 - 1)).toBeLessThan(0.05);
    expect(t60(octave(x!, 8000))).toBeLessThan(1.5);
  });
});

describe('channels', () => {
  it.each([2, 4, 6, 12])('linked, a sound in one of %i wakes all alike', (width) => {
    const out = impulse(width, 1, [0], { decay: 1 });
    const levels = out.map((c) => dB(rms(c)));
    for (const l of levels) expect(Math.abs(l - levels[0]!)).toBeLessThan(3);
  });
  it.each([2, 4, 6, 12])('each alone, a sound in one of %i wakes its own only', (width) => {
    const out = impulse(width, 0.5, [1], { decay: 1, link: 0 });
    out.forEach((c, i) => (i === 1 ? expect(rms(c)).toBeGreaterThan(0) : expect(rms(c)).toBe(0)));
  });
  it('are different rooms to the ear: hardly alike', () => {
    const [l, r] = impulse(2, 1, [0, 1], { decay: 1 }) as [Float32Array, Float32Array];
    const correlation = l.reduce((s, v, i) => s + v * r[i]!, 0) / (l.length * rms(l) * rms(r));
    expect(Math.abs(correlation)).toBeLessThan(0.3);
  });
});

it('the first sound comes after the pre-delay and the shortest line', () => {
  const [x] = impulse(1, 0.5, [0], { preDelay: 50, size: 10 });
  const first = x!.findIndex((v) => v !== 0);
  expect(first).toBe(2400 + Math.min(...lineLengths(10, RATE, 1)));
});

it('the same variant sounds the same, another differs', () => {
  const a = impulse(2, 0.3, [0], { seed: 7 });
  expect(impulse(2, 0.3, [0], { seed: 7 })).toEqual(a);
  expect(impulse(2, 0.3, [0], { seed: 8 })).not.toEqual(a);
});

it('never grows: two seconds of full-level noise stay bounded, and silence follows', () => {
  const x = noise(RATE * 4, 1, 3);
  x.fill(0, RATE * 2);
  const { out } = runStage(k, 'reverb', { decay: 0.5, damping: 0 }, [x]);
  expect(rms(out[0]!.subarray(0, 2 * RATE))).toBeLessThan(10);
  expect(rms(out[0]!.subarray(3.9 * RATE))).toBeLessThan(1e-6);
});

it('lines are sixteen different primes', () => {
  for (const size of [2, 12, 40]) {
    const lines = lineLengths(size, RATE, 3);
    expect(new Set(lines).size).toBe(16);
    for (const n of lines) for (let d = 2; d * d <= n; d++) expect(n % d).not.toBe(0);
  }
});
