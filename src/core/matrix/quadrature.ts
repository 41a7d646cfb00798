import { HILBERT_BYTES, type Kernels } from '@/core/kernels';

/** Taps on either side at 48 kHz: within 0.1 dB from 60 Hz up. */
const HALF_AT_48K = 1535;

/** Samples by which everything that passes a quadrature network comes late: odd, about 32 ms. */
export const quadratureDelay = (rate: number): number => 2 * Math.floor((HALF_AT_48K * rate) / 96_000) + 1;

/** Splits a channel into itself and itself advanced by 90 degrees, both late by the same time. */
export class Quadrature {
  private readonly state: number;
  private scratch = 0;
  private room = 0;
  readonly delay: number;

  constructor(
    private readonly k: Kernels,
    rate: number,
  ) {
    this.delay = quadratureDelay(rate);
    this.state = k.x.alloc(HILBERT_BYTES);
    k.x.hilbertInit(this.state, this.delay);
  }

  /** Delays `buf` in place; `shifted` gets the same sound a quarter of a turn ahead. */
  run(buf: number, shifted: number, n: number): void {
    if (n > this.room) {
      if (this.scratch) this.k.x.release(this.scratch);
      this.scratch = this.k.x.alloc((n + 2 * this.delay) * 4);
      this.room = n;
    }
    this.k.x.hilbertRun(this.state, buf, shifted, n, this.scratch);
  }

  free(): void {
    this.k.x.hilbertFree(this.state);
    this.k.x.release(this.state);
    if (this.scratch) this.k.x.release(this.scratch);
  }
}
