import { BIQUAD_BYTES, type Kernels } from '@/core/kernels';

/** Coefficients of one second-order section: 5 f64. */
export const SECTION_BYTES = 40;

/** A cascade of second-order sections for one channel, with coefficients that never change. */
export class FixedFilter {
  private readonly states: number;
  private readonly list: number;
  private readonly count: number;

  /** `design` writes at most `most` sections of coefficients and returns their number. */
  constructor(
    private readonly k: Kernels,
    most: number,
    design: (coefs: number) => number,
  ) {
    const size = BIQUAD_BYTES;
    const coefs = k.x.alloc(SECTION_BYTES * most);
    this.count = design(coefs);
    this.states = k.x.alloc(size * this.count);
    this.list = k.x.alloc(4 * this.count);
    for (let s = 0; s < this.count; s++) {
      k.x.biquadSet(this.states + s * size, coefs + s * SECTION_BYTES, 0);
      k.u32(this.list, this.count)[s] = this.states + s * size;
    }
    k.x.release(coefs);
  }

  run(buf: number, n: number): void {
    this.k.x.biquadChain(this.list, this.count, buf, n);
  }

  free(): void {
    this.k.x.release(this.states);
    this.k.x.release(this.list);
  }
}
