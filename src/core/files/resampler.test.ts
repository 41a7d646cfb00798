// Rate conversion against what the same sound is at the other rate, known in closed form; the same figures from sox and
// soxr stand in tests/reference.
import { describe, expect, it } from 'vitest';
import { newKernels, noise, put } from '../../../tests/support/kernels';
import { resample, Resampler } from '.';

const k = newKernels();
const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);
const RATES = [
  [44_100, 48_000],
  [48_000, 44_100],
  [48_000, 96_000],
  [96_000, 48_000],
  [44_100, 96_000],
  [192_000, 44_100],
  [8_000, 48_000],
  [48_000, 8_000],
] as const;
const sine = (frequency: number, rate: number, n: number) =>
  Float32Array.from({ length: n }, (_, i) => Math.sin((2 * Math.PI * frequency * i) / rate));
const dB = (power: number) => 10 * Math.log10(power);
/** Away from the ends, where a tone begins and ends at once. */
const middle = (x: Float32Array) => x.subarray(Math.floor(x.length * 0.3), Math.floor(x.length * 0.7));
const power = (x: Float32Array) => x.reduce((s, v) => s + v * v, 0) / x.length;

describe.each(RATES)('%i to %i Hz', (from, to) => {
  const edge = Math.min(from, to) / 2;
  it.each([0.05, 0.5, 0.94])('a tone at %f of half the slower rate is the same tone, less -125 dB', (share) => {
    const n = Math.floor(from / 3);
    const out = resample(k, sine(share * edge, from, n), from, to);
    expect(out.length).toBe(Math.ceil((n * to) / from));
    const same = sine(share * edge, to, out.length);
    expect(dB(power(middle(out.map((v, i) => v - same[i]!))) / 0.5)).toBeLessThan(-125);
  });

  it('nothing of what is above half the slower rate comes back below it', () => {
    for (const f of [1.006 * edge, 1.1 * edge, 1.7 * edge].filter((x) => x < from / 2))
      expect(dB(power(middle(resample(k, sine(f, from, Math.floor(from / 3)), from, to))) / 0.5)).toBeLessThan(-125);
  });

  it('a sound stands where it stood: an impulse is as long before as behind', () => {
    const n = 4_000;
    const x = new Float32Array(n);
    // A time that both rates have a sample at.
    const step = from / gcd(from, to);
    const at = step * Math.floor(n / 2 / step);
    x[at] = 1;
    const out = resample(k, x, from, to);
    const there = (at * to) / from;
    for (let i = 1; i < 40; i++) expect(out[there + i]).toBeCloseTo(out[there - i]!, 6);
    expect(Math.max(...out)).toBe(out[there]);
  });
});

it('is the same in pieces of any size', () => {
  const n = 30_000;
  const x = [noise(n, 0.5, 1), noise(n, 0.5, 2), noise(n, 0.5, 3)];
  const inPieces = (most: number) => {
    const r = new Resampler(k, 44_100, 48_000, 3, most);
    const out = x.map(() => [] as number[]);
    const keep = (made: number) => {
      // More than went in, since blocks come whole; what writes it must have room.
      expect(made).toBeLessThanOrEqual(r.mostOut);
      out.forEach((o, c) => o.push(...r.output.view(c, made)));
    };
    for (let from = 0; from < n; from += most) {
      const set = put(
        k,
        x.map((ch) => ch.subarray(from, from + most)),
      );
      keep(r.run(set.table, Math.min(most, n - from)));
      set.free();
    }
    keep(r.finish());
    r.free();
    return out.map((o) => Float32Array.from(o));
  };
  const whole = inPieces(n);
  expect(whole[2]!.length).toBe(Math.ceil((n * 48_000) / 44_100));
  for (const most of [64, 997, 4_096]) expect(inPieces(most)).toEqual(whole);
});

it.each([0, 1, 2, 700])('a file of %i samples comes out as long as it is', (n) => {
  const r = new Resampler(k, 44_100, 48_000, 1, 1_000);
  const set = put(k, [new Float32Array(Math.max(1, n)).fill(0.25)]);
  expect(r.run(set.table, n) + r.finish()).toBe(Math.ceil((n * 48_000) / 44_100));
  set.free();
  r.free();
});
