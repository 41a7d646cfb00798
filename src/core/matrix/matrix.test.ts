import { describe, expect, it } from 'vitest';
import { newKernels, noise, put, sine } from '../../../tests/support/kernels';
import { dB, rms } from '../../../tests/support/stages';
import { layoutOf } from '@/core/speakers';
import {
  ComplexMatrix,
  type ComplexGains,
  DECODE_FOUR,
  ENCODE_FOUR,
  fourInTwoCrosstalk,
  ltRtGains,
  Quadrature,
} from '.';

const k = newKernels();
const RATE = 48000;
const N = RATE;

function run(gains: ComplexGains, channels: Float32Array[], block = N): Float32Array[] {
  const m = new ComplexMatrix(k, RATE, gains);
  const out = gains[0]!.map(() => new Float32Array(N));
  for (let at = 0; at < N; at += block) {
    const n = Math.min(block, N - at);
    const ins = put(
      k,
      channels.map((c) => c.subarray(at, at + n)),
    );
    const outs = put(
      k,
      out.map(() => new Float32Array(n)),
    );
    m.run(ins.table, outs.table, n);
    out.forEach((o, c) => o.set(outs.view(c, n), at));
    ins.free();
    outs.free();
  }
  m.free();
  return out;
}
const middle = (x: Float32Array) => x.subarray(N / 4, (3 * N) / 4);

describe('a quarter of a turn', () => {
  it.each([60, 100, 300, 1000, 4000, 12_000, 20_000])('at %i Hz: 90 degrees ahead, level kept within 0.1 dB', (f) => {
    const q = new Quadrature(k, RATE);
    const set = put(k, [sine(N, RATE, f, 0.5), new Float32Array(N)]);
    q.run(set.at(0), set.at(1), N);
    const [direct, shifted] = [middle(set.view(0)), middle(set.view(1))];
    expect(dB(rms(shifted) / rms(direct))).toBeCloseTo(0, 1);
    // In quadrature their product averages to nothing, and the shifted one leads: it meets the cosine.
    const dot = direct.reduce((s, v, i) => s + v * shifted[i]!, 0) / direct.length;
    expect(Math.abs(dot)).toBeLessThan(1e-4);
    const cosine = sine(N, RATE, f, 0.5, 90 - (360 * f * q.delay) / RATE);
    const along = shifted.reduce((s, v, i) => s + v * cosine[N / 4 + i]!, 0) / shifted.length;
    expect(along / (rms(shifted) * rms(direct))).toBeGreaterThan(0.999);
    q.free();
    set.free();
  });
  it('the direct sound is only late', () => {
    const q = new Quadrature(k, RATE);
    const x = noise(N, 0.5, 3);
    const set = put(k, [x, new Float32Array(N)]);
    q.run(set.at(0), set.at(1), N);
    expect(
      Buffer.compare(Buffer.from(set.view(0).slice(q.delay).buffer), Buffer.from(x.slice(0, N - q.delay).buffer)),
    ).toBe(0);
    q.free();
    set.free();
  });
});

describe('four channels in two (Regular Matrix: neighbours separated by 3 dB, diagonals fully; values from memory)', () => {
  const names = ['L', 'R', 'Ls', 'Rs'];
  it('by the matrices', () => {
    fourInTwoCrosstalk().forEach((row, i) =>
      row.forEach((db, o) => {
        const diagonal = i !== o && [0, 3].includes(i) === [0, 3].includes(o);
        if (diagonal) expect(db, `${names[i]} in ${names[o]}`).toBe(-Infinity);
        else expect(db).toBeCloseTo(i === o ? 0 : -3.01, 2);
      }),
    );
  });
  it.each([0, 1, 2, 3])('measured on noise through encoder and decoder: channel %i', (i) => {
    const source = noise(N, 0.3, i + 7);
    const ins = [0, 1, 2, 3].map((c) => (c === i ? source : new Float32Array(N)));
    const out = run(DECODE_FOUR, run(ENCODE_FOUR, ins));
    const levels = out.map((o) => dB(rms(middle(o)) / rms(middle(source))));
    names.forEach((_, o) => {
      const diagonal = i !== o && [0, 3].includes(i) === [0, 3].includes(o);
      if (i === o) expect(levels[o]).toBeCloseTo(0, 1);
      else if (diagonal) expect(levels[o]).toBeLessThan(-30);
      else expect(levels[o]).toBeCloseTo(-3.01, 0);
    });
  });
  it('is the same in blocks', () => {
    const ins = [0, 1, 2, 3].map((c) => noise(N, 0.3, c + 1));
    const whole = run(ENCODE_FOUR, ins);
    const parts = run(ENCODE_FOUR, ins, 500);
    whole.forEach((w, c) => w.forEach((v, i) => expect(Math.abs(v - parts[c]![i]!)).toBeLessThan(1e-6)));
  });
});

describe('Lt Rt', () => {
  const gains = ltRtGains(layoutOf('5.1'));
  it('has the centre in both, the surrounds against each other', () => {
    expect(gains[2]).toEqual([
      { re: Math.SQRT1_2, im: 0 },
      { re: Math.SQRT1_2, im: 0 },
    ]);
    expect(gains[4]).toEqual([
      { re: 0, im: -Math.SQRT1_2 },
      { re: 0, im: Math.SQRT1_2 },
    ]);
    expect(gains[3]!.every((g) => g.re === 0)).toBe(true);
  });
  it('a surround is found in the difference and not in the sum, the centre the other way round', () => {
    const source = noise(N, 0.3, 2);
    const silent = new Float32Array(N);
    const at = (c: number) =>
      run(
        gains,
        [0, 1, 2, 3, 4, 5].map((i) => (i === c ? source : silent)),
      );
    const level = ([l, r]: Float32Array[], sign: number) => rms(middle(l!.map((v, i) => v + sign * r![i]!)));
    expect(dB(level(at(4), 1) / level(at(4), -1))).toBeLessThan(-100);
    expect(dB(level(at(2), -1) / level(at(2), 1))).toBeLessThan(-100);
  });
});
