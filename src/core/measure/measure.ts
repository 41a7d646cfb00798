import type { Kernels } from '@/core/kernels';
import { integrated, loudnessRange, momentary, shortTerm } from './loudness';

/** Samples at or below this count as silence (-80 dBFS). */
const SILENCE = 1e-4;
const HOP_SECONDS = 0.1;

export interface Measured {
  /** LUFS, LU. */
  integrated: number;
  range: number;
  maxMomentary: number;
  maxShortTerm: number;
  /** dBTP and dBFS of the highest channel. */
  truePeak: number;
  samplePeak: number;
  /** Seconds of the longest stretch below -80 dBFS in all channels; whether all of it is. */
  longestSilence: number;
  silent: boolean;
  /** Weighted mean squares of 100 ms stretches. */
  hops: Float64Array;
}

/** Measures a stream of blocks: loudness, true peak, silence. The same code live, in prints and on files. */
export class Measure {
  private readonly loud: number;
  private readonly peaks: number[];
  private readonly scratch: number;
  private readonly out: number;
  private hops = new Float64Array(1024);
  private count = 0;
  private quietRun = 0;
  private quietMost = 0;
  private frames = 0;

  constructor(
    private readonly k: Kernels,
    private readonly sampleRate: number,
    private readonly weights: readonly number[],
    mostFrames: number,
    private readonly options: { truePeak?: boolean; silence?: boolean } = {},
  ) {
    const hop = Math.round(sampleRate * HOP_SECONDS);
    const w = k.putF64(weights);
    this.loud = k.x.alloc(k.sizeOf('LOUDNESS'));
    k.x.loudnessInit(this.loud, sampleRate, weights.length, hop, w);
    k.x.release(w);
    this.peaks = weights.map(() => k.x.alloc(k.sizeOf('TRUEPEAK')));
    this.scratch = k.x.alloc((mostFrames + 32) * 4);
    this.out = k.x.alloc((Math.ceil(mostFrames / hop) + 1) * 8);
  }

  /** Takes `n` samples of the channels in `table` (addresses); n at most `mostFrames`. */
  run(table: number, n: number): void {
    const done = this.k.x.loudnessRun(this.loud, table, n, this.out);
    if (done) this.keep(done);
    if (this.options.truePeak !== false) {
      for (let c = 0; c < this.peaks.length; c++)
        this.k.x.truePeakRun(this.peaks[c]!, this.k.heapU32[(table >> 2) + c]!, n, this.scratch);
    }
    if (this.options.silence !== false) this.watchSilence(table, n);
    this.frames += n;
  }

  private keep(done: number): void {
    if (this.count + done > this.hops.length) {
      const larger = new Float64Array(this.hops.length * 2 + done);
      larger.set(this.hops);
      this.hops = larger;
    }
    this.hops.set(this.k.f64(this.out, done), this.count);
    this.count += done;
  }

  // Looked at in steps of 256 samples: fine enough for a figure in tenths of a second.
  private watchSilence(table: number, n: number): void {
    for (let i = 0; i < n; i += 256) {
      const part = Math.min(256, n - i);
      let top = 0;
      for (let c = 0; c < this.weights.length && top <= SILENCE; c++) {
        top = Math.max(top, this.k.x.peakAbs(this.k.heapU32[(table >> 2) + c]! + i * 4, part));
      }
      this.quietRun = top <= SILENCE ? this.quietRun + part : 0;
      if (this.quietRun > this.quietMost) this.quietMost = this.quietRun;
    }
  }

  /** Weighted mean squares so far, 100 ms each. */
  get stretches(): Float64Array {
    return this.hops.subarray(0, this.count);
  }

  /** Largest true peak so far, linear. */
  get truePeakLinear(): number {
    return Math.max(0, ...this.peaks.map((p) => this.k.heap[p >> 2]!));
  }

  result(): Measured {
    const hops = this.stretches.slice();
    const max = (values: Float64Array) => values.reduce((a, b) => Math.max(a, b), -Infinity);
    const samplePeak = Math.max(0, ...this.peaks.map((p) => this.k.heap[(p >> 2) + 1]!));
    return {
      integrated: integrated(hops),
      range: loudnessRange(hops),
      maxMomentary: max(momentary(hops)),
      maxShortTerm: max(shortTerm(hops)),
      truePeak: 20 * Math.log10(this.truePeakLinear),
      samplePeak: 20 * Math.log10(samplePeak),
      longestSilence: this.quietMost / this.sampleRate,
      silent: this.frames > 0 && this.quietMost >= this.frames,
      hops,
    };
  }

  /** Starts anew. */
  reset(): void {
    this.k.x.loudnessReset(this.loud);
    for (const p of this.peaks) this.k.bytes(p, this.k.sizeOf('TRUEPEAK')).fill(0);
    this.count = this.quietRun = this.quietMost = this.frames = 0;
  }

  free(): void {
    this.k.x.loudnessFree(this.loud);
    [this.loud, this.scratch, this.out, ...this.peaks].forEach((p) => this.k.x.release(p));
  }
}
