import type { Kernels } from '@/core/kernels';
import type { StageRunner, StageValues } from './stage';

/** What a linked dynamics kernel offers: all channels share one gain. */
export interface DynamicsKernel {
  state: 'COMPRESSOR' | 'GATE';
  init(k: Kernels, p: number): void;
  /** Sets the values; switched off it must leave the sound as it is. */
  set(k: Kernels, p: number, rate: number, values: StageValues, on: boolean): void;
  run(k: Kernels, p: number, chans: number, count: number, n: number): void;
  reduction(k: Kernels, p: number): number;
}

/** Runs a dynamics kernel; one that was never switched on costs nothing. */
export class DynamicsRunner implements StageRunner {
  private readonly state: number;
  private ever = false;

  constructor(
    private readonly kernel: DynamicsKernel,
    private readonly k: Kernels,
    private readonly rate: number,
    private readonly channels: number,
  ) {
    this.state = k.x.alloc(k.sizeOf(kernel.state));
    kernel.init(k, this.state);
  }

  set(values: StageValues, on: boolean): void {
    this.ever ||= on;
    this.kernel.set(this.k, this.state, this.rate, values, on);
  }

  run(chans: number, n: number): void {
    if (this.ever) this.kernel.run(this.k, this.state, chans, this.channels, n);
  }

  reduction(): number {
    return this.kernel.reduction(this.k, this.state);
  }

  free(): void {
    this.k.x.release(this.state);
  }
}
