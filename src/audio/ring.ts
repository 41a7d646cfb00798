import { COUNT_WORDS, SharedCount } from './sharedCount';

/** Frames that a ring of a playing track holds per channel: about five seconds. */
export const RING_FRAMES = 1 << 18;

/** Planar samples in shared memory, written by one thread and read by another. */
export interface RingMemory {
  channels: number;
  frames: number;
  samples: SharedArrayBuffer;
  /** Frames written and read since the start. */
  counts: SharedArrayBuffer;
}

/** A ring with room for `frames` frames of `channels` channels. */
export function newRing(channels: number, frames = RING_FRAMES): RingMemory {
  return {
    channels,
    frames,
    samples: new SharedArrayBuffer(channels * frames * 4),
    counts: new SharedArrayBuffer(2 * COUNT_WORDS * 4),
  };
}

/** One side of a ring. */
export class Ring {
  private readonly planes: Float32Array[];
  private readonly counts: { written: SharedCount; read: SharedCount };
  private readonly frames: number;

  constructor(memory: RingMemory) {
    this.frames = memory.frames;
    this.planes = Array.from(
      { length: memory.channels },
      (_, c) => new Float32Array(memory.samples, c * memory.frames * 4, memory.frames),
    );
    const words = new Int32Array(memory.counts);
    this.counts = { written: new SharedCount(words, 0), read: new SharedCount(words, COUNT_WORDS) };
  }

  get channels(): number {
    return this.planes.length;
  }

  get written(): number {
    return this.counts.written.value;
  }

  get read(): number {
    return this.counts.read.value;
  }

  get available(): number {
    return this.written - this.read;
  }

  get room(): number {
    return this.frames - this.available;
  }

  /** Begins anew, at a frame count that both sides go on from. */
  restart(at = 0): void {
    this.counts.written.value = at;
    this.counts.read.value = at;
  }

  /** Takes back what was written after `frames`. */
  rewind(frames: number): void {
    if (frames < this.written) this.counts.written.value = frames;
  }

  /** Copies the samples of a channel in; the caller has checked the room. */
  put(channel: number, samples: Float32Array): void {
    const at = this.written % this.frames;
    const plane = this.planes[channel]!;
    const first = Math.min(samples.length, this.frames - at);
    plane.set(first === samples.length ? samples : samples.subarray(0, first), at);
    if (first < samples.length) plane.set(samples.subarray(first), 0);
  }

  wrote(n: number): void {
    this.counts.written.value = this.written + n;
  }

  /** Copies `n` frames of a channel to `target` at `index`; the caller has checked they are there. */
  take(channel: number, target: Float32Array, index: number, n: number): void {
    const at = this.read % this.frames;
    const plane = this.planes[channel]!;
    const first = Math.min(n, this.frames - at);
    target.set(plane.subarray(at, at + first), index);
    if (first < n) target.set(plane.subarray(0, n - first), index + first);
  }

  took(n: number): void {
    this.counts.read.value = this.read + n;
  }
}
