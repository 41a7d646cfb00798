import type { TakeGap } from '@/core/session';
import { bytesPerSample, formatOfWord, FrameCodec } from '@/core/files';
import { ChannelSet, type Kernels } from '@/core/kernels';
import type { WordLength } from '@/core/session';
import { TakeReader, type TakeMemory } from '../takeRing';
import type { Part } from './takeStore';

/** Frames dealt with at a time, and in a peak. */
const SPAN = 8192;
const PEAK_BIN = 256;

/** Where the samples of a take are kept. `write` throws when they are not. */
export interface TakeSink {
  write(part: Part, bytes: Uint8Array, at: number): void;
}

/** Takes one recording from its ring to where it is kept: whole peak bins, and the rest at the end. */
export class TakeRecording {
  private readonly reader: TakeReader;
  private readonly planar: ChannelSet;
  private readonly codec: FrameCodec;
  private readonly block: number;
  private readonly pairs: number;
  /** Frames that stand in `planar` and are not kept yet. */
  private filled = 0;
  private taken = 0;
  /** Frames that are kept. */
  frames = 0;
  /** Where sound is missing, frames of the take. */
  readonly gaps: TakeGap[] = [];

  constructor(
    private readonly k: Kernels,
    ring: TakeMemory,
    private readonly channels: number,
    wordLength: WordLength,
    private readonly sink: TakeSink,
  ) {
    this.reader = new TakeReader(ring);
    this.planar = new ChannelSet(k, channels * 2, SPAN);
    this.codec = new FrameCodec(k, formatOfWord(wordLength), channels, SPAN);
    this.block = channels * bytesPerSample(formatOfWord(wordLength));
    this.pairs = k.x.alloc((SPAN / PEAK_BIN) * 8);
  }

  /** Whether everything up to the end is kept. */
  get complete(): boolean {
    return this.reader.ended !== null && this.frames >= this.reader.ended;
  }

  /** Whether what was kept is what was written into the ring; only of a complete one. */
  get same(): boolean {
    return this.reader.same;
  }

  /**
   * Keeps what the ring holds, up to `end` frames in all; returns new peaks. When keeping fails the error is thrown and
   * the samples stay: the next call tries them again.
   */
  drain(end: number | null): number[] {
    const pairs: number[] = [];
    for (;;) {
      this.fill(end ?? Infinity);
      const last = this.taken >= (this.reader.ended ?? end ?? Infinity);
      const n = last ? this.filled : this.filled - (this.filled % PEAK_BIN);
      if (n === 0) return pairs;
      const at = this.frames * this.block;
      this.sink.write('processed', this.codec.encode(this.planar.table, n).bytes, at);
      this.sink.write('dry', this.codec.encode(this.planar.table + this.channels * 4, n).bytes, at);
      const bins = this.k.x.peakBins(this.planar.at(0), n, PEAK_BIN, this.pairs);
      pairs.push(...this.k.f32(this.pairs, bins * 2));
      this.frames += n;
      this.keepRest(n);
    }
  }

  private fill(end: number): void {
    const { k, planar } = this;
    for (;;) {
      const step = this.reader.next(Math.min(SPAN - this.filled, end - this.taken));
      if (!step || step.frames <= 0) return;
      for (let c = 0; c < planar.channels; c++) {
        const index = (planar.at(c) >> 2) + this.filled;
        if (step.kind === 'gap') k.heap.fill(0, index, index + step.frames);
        else this.reader.take(c, k.heap, k.heapU32, index, step.frames);
      }
      if (step.kind === 'gap') this.noteGap(step.frames);
      this.reader.took(step);
      this.filled += step.frames;
      this.taken += step.frames;
      if (this.filled === SPAN) return;
    }
  }

  private noteGap(frames: number): void {
    const before = this.gaps.at(-1);
    if (before && before.at + before.frames === this.taken) before.frames += frames;
    else this.gaps.push({ at: this.taken, frames });
  }

  private keepRest(n: number): void {
    const rest = this.filled - n;
    if (rest > 0)
      for (let c = 0; c < this.planar.channels; c++) this.k.x.copy(this.planar.at(c), this.planar.at(c) + n * 4, rest);
    this.filled = rest;
  }

  free(): void {
    this.planar.free();
    this.codec.free();
    this.k.x.release(this.pairs);
  }
}
