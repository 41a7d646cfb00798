import { describe, expect, it } from 'vitest';
import { ChannelSet } from '@/core/kernels';
import { Spectrum } from '@/core/measure';
import { newKernels } from '../../../tests/support/kernels';
import { dB, firstDifference, peak, rms } from '../../../tests/support/stages';
import { generator, type SignalKind } from '.';

const k = newKernels();
const RATE = 48000;

function make(signal: SignalKind, seconds: number, block = 4800): Float32Array {
  const g = generator(k, RATE, signal);
  const out = new Float32Array(RATE * seconds);
  const set = new ChannelSet(k, 1, block);
  for (let at = 0; at < out.length; at += block) {
    const n = Math.min(block, out.length - at);
    set.view(0).fill(0);
    g.run(set.at(0), n);
    out.set(set.view(0, n), at);
  }
  g.free();
  set.free();
  return out;
}

function bands(x: Float32Array) {
  const s = new Spectrum(k, RATE);
  const set = new ChannelSet(k, 1, x.length);
  set.view(0).set(x);
  s.run(set.at(0), x.length);
  const out = s.thirdOctaves();
  s.free();
  set.free();
  return out;
}

describe('pink noise', () => {
  it('has the same power in every third octave of its band, and the level asked for', () => {
    const x = make({ kind: 'pink', level: -20 }, 40);
    expect(dB(rms(x))).toBeCloseTo(-20, 0);
    const inside = bands(x).filter((b) => b.frequency >= 50 && b.frequency <= 16_000);
    const mean = inside.reduce((s, b) => s + b.level, 0) / inside.length;
    for (const b of inside) expect(Math.abs(b.level - mean), `${b.frequency}`).toBeLessThan(0.7);
  });
  it('held to 500 to 2000 Hz leaves the rest quiet (band of SMPTE RP 200, from memory)', () => {
    const x = make({ kind: 'pink', level: -20, band: [500, 2000] }, 20);
    expect(dB(rms(x))).toBeCloseTo(-20, 0);
    const levels = new Map(bands(x).map((b) => [b.frequency, b.level]));
    expect(levels.get(1000)! - levels.get(125)!).toBeGreaterThan(35);
    expect(levels.get(1000)! - levels.get(8000)!).toBeGreaterThan(35);
  });
  it('is the same in any block', () => {
    expect(firstDifference(make({ kind: 'pink', level: -20 }, 1, 500), make({ kind: 'pink', level: -20 }, 1))).toBe(-1);
  });
});

describe('tones', () => {
  it('a sine at -20 dBFS RMS stands at -16.99 dBFS peak', () => {
    const x = make({ kind: 'sine', level: -20, frequency: 997 }, 2);
    expect(dB(rms(x))).toBeCloseTo(-20, 2);
    expect(dB(peak(x))).toBeCloseTo(-16.99, 2);
  });
  it('an exponential sweep spends the same time in each octave', () => {
    const x = make({ kind: 'sweep', level: -20, from: 62.5, to: 8000, seconds: 7 }, 7);
    // Crossings in second s (octave s): twice the mean frequency, 62.5 2^s / ln 2.
    for (let s = 0; s < 7; s++) {
      let crossings = 0;
      for (let i = s * RATE + 1; i < (s + 1) * RATE; i++) if (x[i]! >= 0 !== x[i - 1]! >= 0) crossings++;
      expect(crossings / 2 / ((62.5 * 2 ** s) / Math.LN2)).toBeCloseTo(1, 1);
    }
  });
  it.each([1, 3, 6])('speaker %i beeps that many times, then rests', (count) => {
    const x = make({ kind: 'beeps', level: -20, count }, 3);
    let [starts, quiet] = [0, 1e9];
    for (let i = 0; i < RATE * (count * 0.25 + 0.9); i++) {
      if (Math.abs(x[i]!) > 0.01) {
        if (quiet > 2400) starts++;
        quiet = 0;
      } else quiet++;
    }
    expect(starts).toBe(count);
  });
  it('refuses what does not fit the rate', () => {
    expect(() => generator(k, RATE, { kind: 'sine', level: -20, frequency: 30_000 })).toThrow(/30000 Hz does not fit/);
    expect(() => generator(k, RATE, { kind: 'sweep', level: -20, from: 100, to: 100, seconds: 1 })).toThrow(RangeError);
  });
});
