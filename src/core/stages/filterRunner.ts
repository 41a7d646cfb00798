import { BIQUAD_BYTES, type Kernels } from '@/core/kernels';
import type { StageRunner, StageValues } from './stage';

export const COEF_BYTES = 40;
const GLIDE_SECONDS = 0.02;

/** Writes the coefficients of a setting to `out` (40 bytes a section) and returns the section count. */
export type FilterDesign = (out: number, values: StageValues) => number;

/** Cascades of up to `most` sections, one per channel; new coefficients glide in. */
export class SectionStates {
  private readonly flat: number;
  private readonly states: number[];
  /** Per channel: addresses of its sections, as the kernel takes them. */
  private readonly lists: number[];
  private readonly table: number;
  private fresh = true;
  /** Sections that have ever worked; the others are never touched. */
  used = 0;

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    channels: number,
    most: number,
  ) {
    const size = BIQUAD_BYTES;
    this.flat = k.putF64([1, 0, 0, 0, 0]);
    this.states = Array.from({ length: channels }, () => {
      const p = k.x.alloc(size * most);
      for (let s = 0; s < most; s++) k.x.biquadSet(p + s * size, this.flat, 0);
      return p;
    });
    this.lists = this.states.map((p) => {
      const list = k.x.alloc(most * 4);
      k.u32(list, most).set(Array.from({ length: most }, (_, s) => p + s * size));
      return list;
    });
    this.table = k.x.alloc(channels * 4);
    k.u32(this.table, channels).set(this.lists);
  }

  /** Heads for `sections` sections with the coefficients at `coefs`. */
  aim(coefs: number, sections: number): void {
    const size = BIQUAD_BYTES;
    const glide = this.fresh ? 0 : Math.round(GLIDE_SECONDS * this.rate);
    this.used = Math.max(this.used, sections);
    for (const state of this.states) {
      for (let s = 0; s < this.used; s++) {
        this.k.x.biquadSet(state + s * size, s < sections ? coefs + s * COEF_BYTES : this.flat, glide);
      }
    }
    this.fresh = false;
  }

  /** Addresses of a channel's sections that work. */
  sections(channel: number): readonly number[] {
    const size = BIQUAD_BYTES;
    return Array.from({ length: this.used }, (_, s) => this.states[channel]! + s * size);
  }

  run(chans: number, channels: number, n: number): void {
    if (this.used === 0) return;
    this.k.x.biquadChannels(this.table, this.used, chans, channels, n);
  }

  free(): void {
    this.k.x.release(this.flat);
    [...this.states, ...this.lists, this.table].forEach((s) => this.k.x.release(s));
  }
}

/** A stage that is one cascade of filters. */
export class FilterRunner implements StageRunner {
  private readonly coefs: number;
  private readonly states: SectionStates;

  constructor(
    private readonly k: Kernels,
    rate: number,
    private readonly channels: number,
    most: number,
    private readonly design: FilterDesign,
  ) {
    this.coefs = k.x.alloc(COEF_BYTES * most);
    this.states = new SectionStates(k, rate, channels, most);
  }

  set(values: StageValues, on: boolean): void {
    this.states.aim(this.coefs, on ? this.design(this.coefs, values) : 0);
  }

  run(chans: number, n: number): void {
    this.states.run(chans, this.channels, n);
  }

  sections(channel: number): readonly number[] {
    return this.states.sections(channel);
  }

  reduction(): null {
    return null;
  }

  free(): void {
    this.k.x.release(this.coefs);
    this.states.free();
  }
}

function designed<T>(
  k: Kernels,
  most: number,
  design: FilterDesign,
  values: StageValues,
  freqs: readonly number[],
  width: number,
  read: (coefs: number, sections: number, at: number, out: number) => T,
): T {
  const coefs = k.x.alloc(COEF_BYTES * most);
  const sections = design(coefs, values);
  const at = k.putF64(freqs);
  const out = k.x.alloc(freqs.length * 8 * width);
  const result = read(coefs, sections, at, out);
  [coefs, at, out].forEach((p) => k.x.release(p));
  return result;
}

/** Magnitude in dB of a design at frequencies in Hz; reads what the filter itself would run. */
export function filterResponse(
  k: Kernels,
  rate: number,
  most: number,
  design: FilterDesign,
  values: StageValues,
  freqs: readonly number[],
): number[] {
  return designed(k, most, design, values, freqs, 1, (coefs, sections, at, out) => {
    k.x.response(coefs, sections, rate, at, out, freqs.length);
    return Array.from(k.f64(out, freqs.length));
  });
}

/** Complex response [real, imaginary] of a design at frequencies in Hz. */
export function filterComplex(
  k: Kernels,
  rate: number,
  most: number,
  design: FilterDesign,
  values: StageValues,
  freqs: readonly number[],
): [number, number][] {
  return designed(k, most, design, values, freqs, 2, (coefs, sections, at, out) => {
    k.x.complexResponse(coefs, sections, rate, at, out, freqs.length);
    const flat = k.f64(out, freqs.length * 2);
    return freqs.map((_, i) => [flat[2 * i]!, flat[2 * i + 1]!]);
  });
}
