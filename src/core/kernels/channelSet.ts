import type { Kernels } from './kernels';

/** `channels` planar buffers of `frames` f32 each, with the array of their addresses that kernels take. */
export class ChannelSet {
  readonly base: number;
  readonly table: number;

  constructor(
    private readonly k: Kernels,
    readonly channels: number,
    readonly frames: number,
  ) {
    const stride = (frames * 4 + 15) & ~15;
    this.base = k.x.alloc(Math.max(16, stride * channels));
    this.table = k.x.alloc(Math.max(16, channels * 4));
    const table = k.u32(this.table, channels);
    for (let c = 0; c < channels; c++) table[c] = this.base + c * stride;
  }

  /** Address of channel `c`. */
  at(c: number): number {
    return this.base + c * ((this.frames * 4 + 15) & ~15);
  }

  view(c: number, n: number = this.frames): Float32Array {
    return this.k.f32(this.at(c), n);
  }

  clear(n: number): void {
    for (let c = 0; c < this.channels; c++) this.k.x.clear(this.at(c), n);
  }

  free(): void {
    this.k.x.release(this.base);
    this.k.x.release(this.table);
  }
}
