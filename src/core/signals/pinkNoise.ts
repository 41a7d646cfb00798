import { BIQUAD_BYTES, ChannelSet, type Kernels } from '@/core/kernels';
import type { Generator } from './generator';

const SECTION_BYTES = 40;
const BUTTERWORTH = 4;

/*
 * White noise through first-order shelves spaced by a factor of four, whose poles and zeros alternate so that
 * the slope is -3.01 dB an octave on the mean (common practice; the test measures it), then through the band.
 */
const LOWEST_POLE = 5;
const SPACING = 4;

export class PinkNoise implements Generator {
  private readonly seed: number;
  private readonly states: number[] = [];
  private readonly list: number;
  private scratch: ChannelSet | null = null;
  private readonly gain: number;

  /** `level`: RMS in dBFS within the band; `seed` decides the noise. */
  constructor(
    private readonly k: Kernels,
    rate: number,
    level: number,
    band: readonly [low: number, high: number] = [20, Math.min(20_000, rate * 0.45)],
    seed = 1,
  ) {
    this.seed = k.x.alloc(4);
    k.u32(this.seed, 1)[0] = (seed * 0x9e3779b9) >>> 0 || 1;
    const sections: number[][] = [];
    for (let pole = LOWEST_POLE; pole < rate * 0.45; pole *= SPACING) {
      sections.push(shelf(rate, pole, pole * Math.sqrt(SPACING)));
    }
    const coefs = k.x.alloc(SECTION_BYTES * 8);
    const cut = k.x.designLowCut(coefs, rate, band[0], BUTTERWORTH);
    const all = cut + k.x.designHighCut(coefs + cut * SECTION_BYTES, rate, band[1], BUTTERWORTH);
    for (let s = 0; s < all; s++) sections.push(Array.from(k.f64(coefs + s * SECTION_BYTES, 5)));
    k.x.release(coefs);
    for (const s of sections) {
      const state = k.x.alloc(BIQUAD_BYTES);
      const p = k.putF64(s);
      k.x.biquadSet(state, p, 0);
      k.x.release(p);
      this.states.push(state);
    }
    this.list = k.x.alloc(this.states.length * 4);
    k.u32(this.list, this.states.length).set(this.states);
    this.gain = k.gain(level) / noiseGain(k, sections, rate);
  }

  run(buf: number, n: number): void {
    const { k } = this;
    if (!this.scratch || this.scratch.frames < n) {
      this.scratch?.free();
      this.scratch = new ChannelSet(k, 1, n);
    }
    const at = this.scratch.at(0);
    k.x.clear(at, n);
    k.x.noiseAdd(this.seed, at, n, 1);
    k.x.biquadChain(this.list, this.states.length, at, n);
    k.x.mix(at, buf, n, this.gain);
  }

  free(): void {
    [this.seed, this.list, ...this.states].forEach((p) => this.k.x.release(p));
    this.scratch?.free();
  }
}

/** One pole, one zero: flat below the first, falling to the second, flat above (bilinear, each corner warped). */
function shelf(rate: number, pole: number, zero: number): number[] {
  const place = (f: number) => (1 - Math.tan((Math.PI * f) / rate)) / (1 + Math.tan((Math.PI * f) / rate));
  const [p, z] = [place(pole), place(Math.min(zero, rate * 0.49))];
  const unit = (1 - p) / (1 - z);
  return [unit, -unit * z, 0, -p, 0];
}

const POINTS = 4096;

/** RMS of white noise in ±1 after the sections: the root of a third of the mean of their power response. */
function noiseGain(k: Kernels, sections: number[][], rate: number): number {
  const coefs = k.putF64(sections.flat());
  const freqs = k.putF64(Float64Array.from({ length: POINTS }, (_, i) => ((i + 0.5) / POINTS) * (rate / 2)));
  const out = k.putF64(new Float64Array(POINTS));
  k.x.response(coefs, sections.length, rate, freqs, out, POINTS);
  const power = k.f64(out, POINTS).reduce((s, db) => s + 10 ** (db / 10), 0) / POINTS;
  [coefs, freqs, out].forEach((p) => k.x.release(p));
  return Math.sqrt(power / 3);
}
