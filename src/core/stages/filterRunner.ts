import type { Kernels } from '@/core/kernels';
import type { StageRunner, StageValues } from './stage';

const COEF_BYTES = 40;
const GLIDE_SECONDS = 0.01;

/** Writes the coefficients of a setting to `out` (40 bytes a section) and returns the section count. */
export type FilterDesign = (out: number, values: StageValues) => number;

/** Runs a cascade of up to `most` sections; unused ones are never touched. */
export class FilterRunner implements StageRunner {
  private readonly coefs: number;
  private readonly states: number[];
  private readonly flat: number;
  private used = 0;
  private fresh = true;

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    channels: number,
    most: number,
    private readonly design: FilterDesign,
  ) {
    const size = k.sizeOf('BIQUAD');
    this.coefs = k.x.alloc(COEF_BYTES * most);
    this.flat = k.putF64([1, 0, 0, 0, 0]);
    this.states = Array.from({ length: channels }, () => {
      const p = k.x.alloc(size * most);
      for (let s = 0; s < most; s++) k.x.biquadSet(p + s * size, this.flat, 0);
      return p;
    });
  }

  set(values: StageValues, on: boolean): void {
    const sections = on ? this.design(this.coefs, values) : 0;
    const size = this.k.sizeOf('BIQUAD');
    const glide = this.fresh ? 0 : Math.round(GLIDE_SECONDS * this.rate);
    this.used = Math.max(this.used, sections);
    for (const state of this.states) {
      for (let s = 0; s < this.used; s++) {
        this.k.x.biquadSet(state + s * size, s < sections ? this.coefs + s * COEF_BYTES : this.flat, glide);
      }
    }
    this.fresh = false;
  }

  run(chans: number, n: number): void {
    if (this.used === 0) return;
    for (let c = 0; c < this.states.length; c++) {
      this.k.x.biquadRun(this.states[c]!, this.used, this.k.heapU32[(chans >> 2) + c]!, n);
    }
  }

  reduction(): null {
    return null;
  }

  free(): void {
    this.k.x.release(this.coefs);
    this.k.x.release(this.flat);
    this.states.forEach((s) => this.k.x.release(s));
  }
}

/** Magnitude response in dB of a design at `freqs`. */
export function filterResponse(
  k: Kernels,
  rate: number,
  most: number,
  design: FilterDesign,
  values: StageValues,
  freqs: readonly number[],
): number[] {
  const coefs = k.x.alloc(COEF_BYTES * most);
  const sections = design(coefs, values);
  const at = k.putF64(freqs);
  const out = k.x.alloc(freqs.length * 8);
  k.x.response(coefs, sections, rate, at, out, freqs.length);
  const result = Array.from(k.f64(out, freqs.length));
  [coefs, at, out].forEach((p) => k.x.release(p));
  return result;
}
