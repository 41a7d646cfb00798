import { LOUDNESS_BYTES, TRUEPEAK_BYTES, type Kernels } from '@/core/kernels';
import { type ChannelLevels, type Correlation, LevelSums } from './levels';
import { dialogueLoudness, integrated, loudnessRange, momentary, shortTerm } from './loudness';
import { SpeechActivity } from './speech';
import { Spectrum } from './spectrum';

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
  /** With `levels`: each channel's own figures, and the phase correlation of each pair. */
  levels?: ChannelLevels[];
  correlations?: Correlation[];
  /** With `spectrum`: third-octave levels in dBFS of all channels but the LFE, powers added. */
  spectrum?: { frequency: number; level: number }[];
  /** With `dialogue`: LUFS of the speech, and the share of time that holds it (see speech.ts). */
  dialogue?: { loudness: number; share: number };
}

export interface MeasureOptions {
  /** On unless false. */
  truePeak?: boolean;
  silence?: boolean;
  /** Off unless given: pairs of channels whose phase is compared. */
  levels?: { pairs: readonly (readonly [number, number])[] };
  spectrum?: boolean;
  dialogue?: boolean;
}

/**
 * Measures a stream of blocks: loudness, true peak, silence and, on demand, levels, phase, spectrum and
 * speech. The same code live, in prints and on files.
 */
export class Measure {
  private readonly loud: number;
  private readonly peaks: number[];
  private readonly out: number;
  private hops = new Float64Array(1024);
  private count = 0;
  private quietRun = 0;
  private quietMost = 0;
  private frames = 0;
  private levels: LevelSums | null = null;
  private spectra: (Spectrum | null)[] = [];
  private speech: SpeechActivity | null = null;

  constructor(
    private readonly k: Kernels,
    private readonly sampleRate: number,
    private readonly weights: readonly number[],
    private readonly mostFrames: number,
    private readonly options: MeasureOptions = {},
  ) {
    const hop = Math.round(sampleRate * HOP_SECONDS);
    const w = k.putF64(weights);
    this.loud = k.x.alloc(LOUDNESS_BYTES);
    k.x.loudnessInit(this.loud, sampleRate, weights.length, hop, w);
    k.x.release(w);
    this.peaks = weights.map(() => k.x.alloc(TRUEPEAK_BYTES));
    this.out = k.x.alloc((Math.ceil(mostFrames / hop) + 1) * 8);
    this.begin();
  }

  // What is measured on demand is made anew at each start.
  private begin(): void {
    const { k, sampleRate, weights, options } = this;
    const counts = weights.map((w, c) => (w > 0 ? c : -1)).filter((c) => c >= 0);
    this.spectra.forEach((s) => s?.free());
    this.speech?.free();
    this.levels = options.levels ? new LevelSums(k, sampleRate, weights.length, options.levels.pairs) : null;
    this.spectra = options.spectrum ? weights.map((w) => (w > 0 ? new Spectrum(k, sampleRate) : null)) : [];
    this.speech = options.dialogue ? new SpeechActivity(k, sampleRate, counts, this.mostFrames) : null;
  }

  /** Takes `n` samples of the channels in `table` (addresses); n at most `mostFrames`. */
  run(table: number, n: number): void {
    const done = this.k.x.loudnessRun(this.loud, table, n, this.out);
    if (done) this.keep(done);
    if (this.options.truePeak !== false) {
      for (let c = 0; c < this.peaks.length; c++)
        this.k.x.truePeakRun(this.peaks[c]!, this.k.heapU32[(table >> 2) + c]!, n);
    }
    if (this.options.silence !== false) this.watchSilence(table, n);
    this.levels?.run(table, n);
    this.spectra.forEach((s, c) => s?.run(this.k.heapU32[(table >> 2) + c]!, n));
    this.speech?.run(table, n);
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
    const { x, heapU32 } = this.k;
    for (let i = 0; i < n; i += 256) {
      const part = Math.min(256, n - i);
      let quiet = true;
      for (let c = 0; c < this.weights.length && quiet; c++)
        quiet = x.firstAbove(heapU32[(table >> 2) + c]! + i * 4, part, SILENCE) === part;
      this.quietRun = quiet ? this.quietRun + part : 0;
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
    const samplePeak = Math.max(0, ...this.channelPeaks().map((p) => p.samplePeak));
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
      ...(this.levels
        ? { levels: this.levels.levels(this.channelPeaks()), correlations: this.levels.correlations() }
        : {}),
      ...(this.spectra.length ? { spectrum: this.summedSpectrum() } : {}),
      ...(this.speech ? { dialogue: dialogueLoudness(hops, this.speech.stretches()) } : {}),
    };
  }

  private channelPeaks() {
    return this.peaks.map((p) => ({ truePeak: this.k.heap[p >> 2]!, samplePeak: this.k.heap[(p >> 2) + 1]! }));
  }

  private summedSpectrum() {
    const all = this.spectra.flatMap((s) => (s ? [s.thirdOctaves()] : []));
    return (all[0] ?? []).map(({ frequency }, i) => ({
      frequency,
      level: 10 * Math.log10(all.reduce((sum, bands) => sum + 10 ** (bands[i]!.level / 10), 0)),
    }));
  }

  /** Starts anew. */
  reset(): void {
    this.k.x.loudnessReset(this.loud);
    for (const p of this.peaks) this.k.bytes(p, TRUEPEAK_BYTES).fill(0);
    this.count = this.quietRun = this.quietMost = this.frames = 0;
    this.begin();
  }

  free(): void {
    this.spectra.forEach((s) => s?.free());
    this.speech?.free();
    this.k.x.loudnessFree(this.loud);
    [this.loud, this.out, ...this.peaks].forEach((p) => this.k.x.release(p));
  }
}
