import { ChannelSet, type Kernels } from '@/core/kernels';

/** Kaiser beta, and share of the slower rate's band that passes: nothing above half that rate, -125 dB or below. */
const CUTOFF = 0.9736;
const BETA = 13.1;
/** Taps on the slower of the two rates: pass band to 95 % of half of it. */
const TAPS = 320;
/** A block is so many times as long as the filter, or up to twice that: longer ones leave the nearest caches. */
const BLOCKS = 6;

/**
 * Twice the rate of a stream behind a low pass that is steep around half the slower rate of a conversion: linear phase, no
 * delay. Blocks stand at fixed places of the stream: what comes out does not depend on how it came in.
 */
export class SteepDoubler {
  /** Input samples that the filter takes from each side. */
  readonly half: number;
  /** Input samples of a block, and how far the next one is. */
  private readonly size: number;
  private readonly hop: number;
  private readonly table: number;
  private readonly gains: number;
  private readonly work: number;
  private readonly most: number;
  private readonly held: ChannelSet;
  /** Silence stands before the stream. */
  private filled: number;

  /**
   * `wide`: how many times the input is faster than the slower rate, at least 1. `lead`: input samples before the first
   * one for which there is output already. `mostFrames`: input samples at once.
   */
  constructor(
    private readonly k: Kernels,
    private readonly channels: number,
    wide: number,
    lead: number,
    mostFrames: number,
  ) {
    this.half = Math.ceil((TAPS * wide) / 2);
    this.size = 2 ** Math.ceil(Math.log2(2 * this.half * BLOCKS));
    this.hop = this.size - 2 * this.half;
    const points = 2 * this.size;
    this.table = k.x.alloc(k.x.fftTableBytes(points));
    k.x.fftTable(this.table, points);
    this.gains = k.x.alloc(points * 8);
    this.work = k.x.alloc(points * 8 * 4);
    k.x.steepDesign(this.gains, this.size, this.half, CUTOFF / wide, BETA, this.work, this.table);
    this.filled = this.half + lead;
    // At the end a block of silence comes.
    this.most = Math.max(mostFrames, this.size);
    this.held = new ChannelSet(k, channels, this.size + this.most);
    this.held.clear(this.filled);
  }

  /** Most samples that one call makes. */
  get mostOut(): number {
    return 2 * (this.size + this.most);
  }

  /** Takes `n` samples of each channel and writes what can be made of them behind `at(channel)`; says how many. */
  run(table: number, n: number, at: (channel: number) => number): number {
    return this.take(table, n, at);
  }

  /** What is left when no more input comes, and what rings behind it; silence to the end of a block. */
  finish(at: (channel: number) => number): number {
    return this.take(null, this.size, at);
  }

  private take(table: number | null, n: number, at: (channel: number) => number): number {
    const { k, held, size, hop, half } = this;
    for (let c = 0; c < this.channels; c++) {
      const to = held.at(c) + this.filled * 4;
      if (table === null) k.x.clear(to, n);
      else k.x.copy(to, k.heapU32[(table >> 2) + c]!, n);
    }
    this.filled += n;
    let made = 0;
    let from = 0;
    for (; this.filled - from >= size; from += hop) {
      for (let c = 0; c < this.channels; c += 2) {
        const two = c + 1 < this.channels;
        k.x.steepRun(
          held.at(c) + from * 4,
          two ? held.at(c + 1) + from * 4 : 0,
          ...([size, half, this.gains, this.work, this.table] as const),
          at(c) + made * 4,
          two ? at(c + 1) + made * 4 : 0,
        );
      }
      made += 2 * hop;
    }
    if (from > 0) {
      this.filled -= from;
      for (let c = 0; c < this.channels; c++) k.x.copy(held.at(c), held.at(c) + from * 4, this.filled);
    }
    return made;
  }

  free(): void {
    for (const p of [this.table, this.gains, this.work]) this.k.x.release(p);
    this.held.free();
  }
}
