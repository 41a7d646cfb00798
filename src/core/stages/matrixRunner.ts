import { RAMP_BYTES, ChannelSet, type Kernels } from '@/core/kernels';
import { ComplexMatrix, type ComplexGains } from '@/core/matrix';
import type { StageRunner, StageValues } from './stage';

const GLIDE_SECONDS = 0.01;

/**
 * Mixes all channels of a chain by a complex matrix, square: channels that it gives nothing are silent. Switched off it
 * only delays; switching glides.
 */
export class MatrixRunner implements StageRunner {
  private readonly matrix: ComplexMatrix;
  private readonly on: number;
  private readonly off: number;
  private out: ChannelSet | null = null;
  private fresh = true;

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    private readonly channels: number,
    gains: ComplexGains,
  ) {
    this.matrix = new ComplexMatrix(k, rate, gains);
    [this.on, this.off] = [1, 0].map((gain) => {
      const ramp = k.x.alloc(RAMP_BYTES * channels);
      for (let c = 0; c < channels; c++) k.x.rampInit(ramp + c * RAMP_BYTES, gain);
      return ramp;
    }) as [number, number];
  }

  set(_values: StageValues, on: boolean): void {
    const glide = this.fresh ? 0 : Math.round(GLIDE_SECONDS * this.rate);
    const size = RAMP_BYTES;
    for (let c = 0; c < this.channels; c++) {
      this.k.x.rampTo(this.on + c * size, on ? 1 : 0, glide);
      this.k.x.rampTo(this.off + c * size, on ? 0 : 1, glide);
    }
    this.fresh = false;
  }

  run(chans: number, n: number): void {
    const { k } = this;
    if (!this.out || this.out.frames < n) {
      this.out?.free();
      this.out = new ChannelSet(k, this.channels, n);
    }
    const size = RAMP_BYTES;
    this.matrix.run(chans, this.out.table, n);
    for (let c = 0; c < this.channels; c++) {
      const to = k.heapU32[(chans >> 2) + c]!;
      k.x.clear(to, n);
      k.x.mixRamp(this.on + c * size, this.out.at(c), to, n);
      k.x.mixRamp(this.off + c * size, this.matrix.late(c), to, n);
    }
  }

  reduction(): null {
    return null;
  }

  free(): void {
    this.matrix.free();
    this.out?.free();
    this.k.x.release(this.on);
    this.k.x.release(this.off);
  }
}
