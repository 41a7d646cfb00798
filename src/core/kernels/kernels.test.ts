// Each kernel against its plain, slow twin.
import { describe, expect, it } from 'vitest';
import { BIQUAD_BYTES } from '.';
import { inBlocks, newKernels, noise, put, sine } from '../../../tests/support/kernels';

const k = newKernels();
const N = 1000;

/** The list of one section that the kernel takes. */
function listOf(section: number): number {
  const list = k.x.alloc(4);
  k.u32(list, 1)[0] = section;
  return list;
}

describe('gain', () => {
  it('mix adds a scaled signal', () => {
    const a = noise(N, 0.5, 1);
    const b = noise(N, 0.5, 2);
    const set = put(k, [a, b]);
    k.x.mix(set.at(0), set.at(1), N, 0.25);
    const out = set.view(1);
    for (let i = 0; i < N; i++) expect(out[i]).toBe(Math.fround(b[i]! + Math.fround(a[i]! * 0.25)));
  });

  it('a ramp is a straight line whose value depends on the sample, not on the block', () => {
    const lines = [1, 7, 64, 1000].map((size) => {
      const ramp = k.x.alloc(32);
      k.x.rampInit(ramp, 1);
      k.x.rampTo(ramp, 0, 480);
      const set = put(k, [new Float32Array(N).fill(1)]);
      inBlocks(N, size, (at, n) => k.x.scaleRamp(ramp, set.at(0) + at * 4, n));
      return set.view(0).slice();
    });
    for (const line of lines.slice(1)) expect(line).toEqual(lines[0]);
    expect(lines[0]![0]).toBe(1);
    expect(lines[0]![240]).toBeCloseTo(0.5, 6);
    expect(lines[0]![480]).toBe(0);
  });

  it('a ramp that is redirected goes on from where it is', () => {
    const ramp = k.x.alloc(32);
    k.x.rampInit(ramp, 0);
    k.x.rampTo(ramp, 1, 100);
    const set = put(k, [new Float32Array(N).fill(1)]);
    k.x.scaleRamp(ramp, set.at(0), 50);
    expect(k.x.rampValue(ramp)).toBeCloseTo(0.5, 6);
    k.x.rampTo(ramp, 0, 100);
    k.x.scaleRamp(ramp, set.at(0) + 200, 100);
    expect(set.view(0)[50]).toBeCloseTo(0.5, 6);
    expect(k.x.rampValue(ramp)).toBe(0);
  });

  it('clip holds at the ceiling and counts', () => {
    const set = put(k, [[0.2, -1.5, 0.9, 2]]);
    expect(k.x.clip(set.at(0), 4, 1)).toBe(2);
    expect(Array.from(set.view(0))).toEqual([Math.fround(0.2), -1, Math.fround(0.9), 1]);
  });

  it('decibels and back', () => {
    expect(k.x.dbToGain(0)).toBe(1);
    expect(k.x.dbToGain(-6.020599913)).toBeCloseTo(0.5, 9);
    expect(k.x.dbToGain(-Infinity)).toBe(0);
    expect(k.x.gainToDb(k.x.dbToGain(-17.3))).toBeCloseTo(-17.3, 9);
  });
});

describe('biquad', () => {
  // Direct form I of the same coefficients, in f64.
  function twin(coefs: number[], x: Float32Array): Float32Array {
    const [b0, b1, b2, a1, a2] = coefs as [number, number, number, number, number];
    let [x1, x2, y1, y2] = [0, 0, 0, 0];
    return x.map((v) => {
      const y = b0 * v + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2;
      [x2, x1, y2, y1] = [x1, v, y1, y];
      return y;
    });
  }

  function coefsOf(design: (out: number) => void): number[] {
    const out = k.x.alloc(40);
    design(out);
    return Array.from(k.f64(out, 5));
  }

  const designs: [string, (out: number) => void][] = [
    ['high-pass', (o) => k.x.designHighPass(o, 48000, 70, Math.SQRT1_2)],
    ['low-pass', (o) => k.x.designLowPass(o, 48000, 8000, 0.9)],
    ['bell', (o) => k.x.designBell(o, 48000, 1000, 2, 6)],
    ['low shelf', (o) => k.x.designLowShelf(o, 48000, 200, 0.7, -4)],
    ['high shelf', (o) => k.x.designHighShelf(o, 48000, 6000, 0.7, 5)],
  ];

  it.each(designs)('%s runs like direct form I', (_, design) => {
    const coefs = coefsOf(design);
    const at = k.putF64(coefs);
    const section = k.x.alloc(BIQUAD_BYTES);
    k.x.biquadSet(section, at, 0);
    const x = noise(N, 0.5, 8);
    const set = put(k, [x]);
    k.x.biquadChain(listOf(section), 1, set.at(0), N);
    const expected = twin(coefs, x);
    const got = set.view(0);
    for (let i = 0; i < N; i++) expect(got[i]).toBeCloseTo(expected[i]!, 6);
  });

  it.each(designs)('%s: the drawn response is the one at work', (_, design) => {
    const coefs = k.putF64(coefsOf(design));
    const freqs = [50, 1000, 7000];
    const f = k.putF64(freqs);
    const out = k.x.alloc(24);
    k.x.response(coefs, 1, 48000, f, out, 3);
    const section = k.x.alloc(BIQUAD_BYTES);
    freqs.forEach((freq, i) => {
      k.bytes(section, BIQUAD_BYTES).fill(0);
      k.x.biquadSet(section, coefs, 0);
      const set = put(k, [sine(48000, 48000, freq, 0.5)]);
      k.x.biquadChain(listOf(section), 1, set.at(0), 48000);
      const tail = set.view(0).subarray(24000);
      const rms = Math.sqrt(tail.reduce((s, v) => s + v * v, 0) / tail.length);
      expect(20 * Math.log10(rms / (0.5 * Math.SQRT1_2))).toBeCloseTo(k.f64(out, 3)[i]!, 2);
    });
  });

  it('shelves reach their gain at the far end (cookbook)', () => {
    const read = (design: (o: number) => void, freq: number) => {
      const c = k.x.alloc(40);
      design(c);
      const f = k.putF64([freq]);
      const out = k.x.alloc(8);
      k.x.response(c, 1, 48000, f, out, 1);
      return k.f64(out, 1)[0]!;
    };
    expect(read((o) => k.x.designLowShelf(o, 48000, 500, 0.7, -6), 10)).toBeCloseTo(-6, 1);
    expect(read((o) => k.x.designHighShelf(o, 48000, 500, 0.7, 6), 20000)).toBeCloseTo(6, 1);
    expect(read((o) => k.x.designLowShelf(o, 48000, 500, 0.7, -6), 20000)).toBeCloseTo(0, 1);
  });

  it.each([1, 2, 3, 4, 5, 6, 7, 8])('Butterworth of order %i falls by 6 dB per octave and order', (order) => {
    const c = k.x.alloc(40 * 4);
    const sections = k.x.designLowCut(c, 48000, 400, order);
    expect(sections).toBe(Math.ceil(order / 2));
    const f = k.putF64([400, 25, 50]);
    const out = k.x.alloc(24);
    k.x.response(c, sections, 48000, f, out, 3);
    const [corner, low, high] = Array.from(k.f64(out, 3)) as [number, number, number];
    expect(corner).toBeCloseTo(-3.01, 2);
    expect(high - low).toBeCloseTo(6.02 * order, 0);
  });

  it('high cut mirrors low cut', () => {
    const c = k.x.alloc(40 * 4);
    const sections = k.x.designHighCut(c, 48000, 2000, 4);
    const f = k.putF64([2000, 100]);
    const out = k.x.alloc(16);
    k.x.response(c, sections, 48000, f, out, 2);
    expect(k.f64(out, 2)[0]).toBeCloseTo(-3.01, 2);
    expect(k.f64(out, 2)[1]).toBeCloseTo(0, 3);
  });

  it('changes without a jump: the step between two samples stays small', () => {
    const flat = k.putF64([1, 0, 0, 0, 0]);
    const bell = k.putF64(coefsOf((o) => k.x.designBell(o, 48000, 200, 1, 12)));
    const section = k.x.alloc(BIQUAD_BYTES);
    k.x.biquadSet(section, flat, 0);
    const x = sine(4800, 48000, 200, 0.25);
    const set = put(k, [x]);
    k.x.biquadChain(listOf(section), 1, set.at(0), 2400);
    k.x.biquadSet(section, bell, 480);
    k.x.biquadChain(listOf(section), 1, set.at(0) + 2400 * 4, 2400);
    const out = set.view(0);
    let step = 0;
    for (let i = 1; i < 4800; i++) step = Math.max(step, Math.abs(out[i]! - out[i - 1]!));
    // The steepest slope of the louder tone itself.
    expect(step).toBeLessThan(((2 * Math.PI * 200) / 48000) * 0.25 * 4.2);
  });
});

describe('delay', () => {
  it.each([1, 5, 71, 999])('by %i samples', (size) => {
    const line = k.x.alloc(size * 4);
    const x = noise(N, 0.5, 3);
    const set = put(k, [x]);
    let index = 0;
    inBlocks(N, 128, (at, n) => (index = k.x.delayRun(line, size, index, set.at(0) + at * 4, n)));
    const out = set.view(0);
    for (let i = 0; i < N; i++) expect(out[i]).toBe(i < size ? 0 : x[i - size]);
  });
});

describe('meter', () => {
  it('finds the largest magnitude at any place and length', () => {
    for (const n of [1, 3, 4, 5, 17, 64, 127]) {
      for (const at of [0, Math.floor(n / 2), n - 1]) {
        const x = new Float32Array(n).fill(0.1);
        x[at] = -0.7;
        const set = put(k, [x]);
        expect(k.x.peakAbs(set.at(0), n)).toBeCloseTo(0.7, 6);
        set.free();
      }
    }
  });
  it('sums squares, finds differences and the first loud sample', () => {
    const a = noise(N, 0.5, 1);
    const b = a.slice();
    b[700] = b[700]! + 0.125;
    const set = put(k, [a, b]);
    expect(k.x.product(set.at(0), set.at(0), N)).toBeCloseTo(
      a.reduce((s, v) => s + v * v, 0),
      6,
    );
    expect(k.x.largestDifference(set.at(0), set.at(1), N)).toBeCloseTo(0.125, 6);
    const quiet = put(k, [new Float32Array(N)]);
    expect(k.x.firstAbove(quiet.at(0), N, 0.01)).toBe(N);
    quiet.view(0)[421] = -0.02;
    expect(k.x.firstAbove(quiet.at(0), N, 0.01)).toBe(421);
  });
});

describe('generators', () => {
  it('noise is uniform, centred, and the same from the same seed', () => {
    const make = () => {
      const state = k.x.alloc(16);
      k.u32(state, 1)[0] = 12345;
      const set = put(k, [new Float32Array(48000)]);
      k.x.noiseAdd(state, set.at(0), 48000, 0.5);
      return set.view(0).slice();
    };
    const a = make();
    expect(make()).toEqual(a);
    expect(a.reduce((s, v) => s + v, 0) / a.length).toBeCloseTo(0, 1);
    expect(a.reduce((s, v) => s + v * v, 0) / a.length).toBeCloseTo(0.25 / 3, 2);
    expect(a.reduce((m, v) => Math.max(m, Math.abs(v)), 0)).toBeLessThanOrEqual(0.5);
  });
  it('a sine goes on in phase over blocks', () => {
    const set = put(k, [new Float32Array(N)]);
    const step = (2 * Math.PI * 997) / 48000;
    let phase = 0;
    inBlocks(N, 130, (at, n) => (phase = k.x.sineAdd(set.at(0) + at * 4, n, phase, step, 0.5)));
    const expected = sine(N, 48000, 997, 0.5);
    set.view(0).forEach((v, i) => expect(v).toBeCloseTo(expected[i]!, 5));
  });
});

describe('samples of files', () => {
  // Little-endian bytes read the slow way.
  const read24 = (b: Uint8Array, at: number) => ((b[at]! | (b[at + 1]! << 8) | (b[at + 2]! << 16)) << 8) >> 8;
  it('24-bit frames are taken apart channel by channel', () => {
    const bytes = Uint8Array.from({ length: 3 * 3 * 50 }, (_, i) => (i * 37 + 11) & 255);
    const raw = k.x.alloc(bytes.length);
    k.bytes(raw, bytes.length).set(bytes);
    const set = put(k, [new Float32Array(50), new Float32Array(50), new Float32Array(50)]);
    k.x.decode(24, raw, 3, 50, set.table);
    for (let c = 0; c < 3; c++) {
      for (let i = 0; i < 50; i++) expect(set.view(c)[i]).toBe(read24(bytes, (i * 3 + c) * 3) / 8388608);
    }
  });
  it('encoding rounds to the nearest step, in whatever length', () => {
    for (const n of [1, 2, 3, 4, 5, 8, 13]) {
      const x = noise(n, 0.9, n);
      const set = put(k, [x]);
      const raw = k.x.alloc(n * 3 + 16);
      expect(k.x.encode(24, set.table, 1, n, raw, 0)).toBe(0);
      for (let i = 0; i < n; i++) {
        expect(Math.abs(read24(k.bytes(raw, n * 3), i * 3) - x[i]! * 8388608)).toBeLessThanOrEqual(0.5);
      }
      set.free();
    }
  });
});
