import type { ChannelSet, Kernels } from '@/core/kernels';

/** Frames behind one pair of smallest and largest sample, level by level. */
export const PEAK_LEVELS = [256, 4096, 65536] as const;
const STEP = 16;

/**
 * Smallest and largest sample (i16, over all channels) of every 256, 4096 and 65536 frames of a stream: what
 * a drawn waveform needs at any zoom, three levels because each is sixteen times the one below.
 */
export class PeakPyramid {
  private readonly levels: Int16Array[];
  private readonly pairs: number;
  private frames = 0;

  constructor(
    private readonly k: Kernels,
    private readonly totalFrames: number,
    private readonly channels: number,
    private readonly mostFrames: number,
  ) {
    this.levels = PEAK_LEVELS.map((bin) => new Int16Array(Math.ceil(totalFrames / bin) * 2));
    this.pairs = k.x.alloc((Math.ceil(mostFrames / PEAK_LEVELS[0]) + 1) * 4);
  }

  /** Takes `n` frames, a multiple of 256 but for the last time. */
  run(set: ChannelSet, n: number): void {
    const { k } = this;
    if (this.frames % PEAK_LEVELS[0] || n > this.mostFrames)
      throw new RangeError('peaks are taken in steps of 256 frames');
    const bins = k.x.peakPairs(set.table, this.channels, n, PEAK_LEVELS[0], this.pairs);
    const found = new Int16Array(k.x.memory.buffer, this.pairs, bins * 2);
    const at = (this.frames / PEAK_LEVELS[0]) * 2;
    const [fine] = this.levels as [Int16Array];
    fine.set(found.subarray(0, Math.max(0, Math.min(found.length, fine.length - at))), at);
    this.frames = Math.min(this.totalFrames, this.frames + n);
  }

  /** All levels one behind the other. */
  finish(): Int16Array[] {
    for (let l = 1; l < this.levels.length; l++) {
      const [below, own] = [this.levels[l - 1]!, this.levels[l]!];
      for (let i = 0; i < own.length / 2; i++) {
        let [low, high] = [32767, -32768];
        const end = Math.min(below.length / 2, (i + 1) * STEP);
        for (let j = i * STEP; j < end; j++) {
          low = Math.min(low, below[2 * j]!);
          high = Math.max(high, below[2 * j + 1]!);
        }
        own[2 * i] = low;
        own[2 * i + 1] = high;
      }
    }
    this.k.x.release(this.pairs);
    return this.levels;
  }
}
