/** Frames that a ring holds per channel: about five seconds. A power of two. */
export const RING_FRAMES = 1 << 18;

/** Planar samples in shared memory, written by one thread and read by another. */
export interface RingMemory {
  channels: number;
  samples: SharedArrayBuffer;
  /** Frames written and read since the start, i32 each. */
  counts: SharedArrayBuffer;
}

export function newRing(channels: number): RingMemory {
  return {
    channels,
    samples: new SharedArrayBuffer(channels * RING_FRAMES * 4),
    counts: new SharedArrayBuffer(8),
  };
}

const WRITTEN = 0;
const READ = 1;

/** One side of a ring. */
export class Ring {
  private readonly planes: Float32Array[];
  private readonly counts: Int32Array;

  constructor(memory: RingMemory) {
    this.planes = Array.from(
      { length: memory.channels },
      (_, c) => new Float32Array(memory.samples, c * RING_FRAMES * 4, RING_FRAMES),
    );
    this.counts = new Int32Array(memory.counts);
  }

  get channels(): number {
    return this.planes.length;
  }

  get written(): number {
    return Atomics.load(this.counts, WRITTEN);
  }

  get read(): number {
    return Atomics.load(this.counts, READ);
  }

  get available(): number {
    return this.written - this.read;
  }

  get room(): number {
    return RING_FRAMES - this.available;
  }

  restart(): void {
    Atomics.store(this.counts, WRITTEN, 0);
    Atomics.store(this.counts, READ, 0);
  }

  /** Takes back what was written after `frames`. */
  rewind(frames: number): void {
    if (frames < this.written) Atomics.store(this.counts, WRITTEN, frames);
  }

  /** Copies `n` frames of `source(channel)` in; the caller has checked the room. */
  put(channel: number, samples: Float32Array): void {
    const at = this.written & (RING_FRAMES - 1);
    const plane = this.planes[channel]!;
    const first = Math.min(samples.length, RING_FRAMES - at);
    plane.set(first === samples.length ? samples : samples.subarray(0, first), at);
    if (first < samples.length) plane.set(samples.subarray(first), 0);
  }

  wrote(n: number): void {
    Atomics.add(this.counts, WRITTEN, n);
  }

  /** Copies `n` frames of a channel to `target` at `index`; the caller has checked they are there. */
  take(channel: number, target: Float32Array, index: number, n: number): void {
    const at = this.read & (RING_FRAMES - 1);
    const plane = this.planes[channel]!;
    const first = Math.min(n, RING_FRAMES - at);
    target.set(plane.subarray(at, at + first), index);
    if (first < n) target.set(plane.subarray(0, n - first), index + first);
  }

  took(n: number): void {
    Atomics.add(this.counts, READ, n);
  }
}
