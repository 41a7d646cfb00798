import type { KernelExports } from './exports';

/**
 * One instance of the kernels with its memory. Views are made anew when the memory has grown, so never
 * keep one across an allocation.
 *
 *   const k = new Kernels(await WebAssembly.compile(bytes));
 *   const buf = k.x.alloc(4 * 128);
 *   k.f32(buf, 128).fill(0.5);
 *   k.x.scale(buf, 128, 0.5);
 */
export class Kernels {
  readonly x: KernelExports;
  private floats = new Float32Array(0);
  private words = new Uint32Array(0);

  constructor(readonly module: WebAssembly.Module) {
    this.x = new WebAssembly.Instance(module, {}).exports as unknown as KernelExports;
  }

  /** The whole memory as f32; index = address / 4. */
  get heap(): Float32Array {
    if (this.floats.buffer !== this.x.memory.buffer) this.floats = new Float32Array(this.x.memory.buffer);
    return this.floats;
  }

  /** The whole memory as u32; index = address / 4. */
  get heapU32(): Uint32Array {
    if (this.words.buffer !== this.x.memory.buffer) this.words = new Uint32Array(this.x.memory.buffer);
    return this.words;
  }

  f32(ptr: number, n: number): Float32Array {
    return new Float32Array(this.x.memory.buffer, ptr, n);
  }

  f64(ptr: number, n: number): Float64Array {
    return new Float64Array(this.x.memory.buffer, ptr, n);
  }

  bytes(ptr: number, n: number): Uint8Array {
    return new Uint8Array(this.x.memory.buffer, ptr, n);
  }

  u32(ptr: number, n: number): Uint32Array {
    return new Uint32Array(this.x.memory.buffer, ptr, n);
  }

  /** Allocates and fills an array of f64; the caller releases it. */
  putF64(values: ArrayLike<number>): number {
    const ptr = this.x.alloc(Math.max(8, values.length * 8));
    this.f64(ptr, values.length).set(values);
    return ptr;
  }

  /** Decibels to linear gain; at or below -200 dB: 0. */
  gain(db: number): number {
    return this.x.dbToGain(db);
  }
}
