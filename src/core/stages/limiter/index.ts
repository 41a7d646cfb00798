import { TRUEPEAK_HISTORY, type Kernels } from '@/core/kernels';
import { choiceParam, linkParam, type StageKind, type StageRunner, type StageValues, valueOf } from '../stage';

const LOOK_AHEAD_SECONDS = 0.0015;
/** Gains that glide bend what stands between samples a little: a second pass with the rest of the way takes that back. */
const TRUE_PASSES = 2;
const TRUE_MARGIN_DB = 0.02;

const windowOf = (rate: number): number => Math.round(LOOK_AHEAD_SECONDS * rate);
/** Samples by which one pass delays. */
const passDelay = (rate: number, real: boolean): number => windowOf(rate) - 1 + (real ? TRUEPEAK_HISTORY : 0);
const truePeaks = (values: StageValues): boolean => valueOf(limiter, values, 'limits') === 1;

/** The passes that limit all channels by what the values say; one after the other. */
export class LimiterPasses {
  private passes: number[] = [];
  private real = false;

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    private readonly channels: number,
  ) {}

  /** `more`: dB that the ceiling lies lower than the values say. */
  set(values: StageValues, on: boolean, more = 0): void {
    const real = truePeaks(values);
    if (this.passes.length === 0 || real !== this.real) this.build(real);
    const ceiling = valueOf(limiter, values, 'ceiling') - (real ? TRUE_MARGIN_DB : 0) - more;
    const release = valueOf(limiter, values, 'release') * 1e-3;
    const linked = valueOf(limiter, values, 'link');
    for (const p of this.passes) this.k.x.limiterSet(p, this.rate, ceiling, release, linked, on ? 1 : 0);
  }

  // The two kinds differ in delay: from one to the other the sound starts anew.
  private build(real: boolean): void {
    this.clear();
    this.real = real;
    this.passes = Array.from({ length: real ? TRUE_PASSES : 1 }, () => {
      const p = this.k.x.alloc(this.k.x.limiterBytes(this.channels));
      this.k.x.limiterInit(p, this.channels, windowOf(this.rate), passDelay(this.rate, real), real ? 1 : 0);
      return p;
    });
  }

  run(chans: number, n: number): void {
    for (const p of this.passes) this.k.x.limiterRun(p, chans, n);
  }

  /** Limits, and writes the gain of each pass to one of `curves` (addresses). */
  detect(chans: number, n: number, curves: readonly number[]): void {
    this.passes.forEach((p, i) => this.k.x.limiterDetect(p, chans, n, curves[i]!));
  }

  /** Deepest gain reduction of all passes together, dB, since the last call. */
  reduction(): number {
    return this.passes.reduce((sum, p) => sum + this.k.x.limiterReduction(p), 0);
  }

  private clear(): void {
    for (const p of this.passes) {
      this.k.x.limiterFree(p);
      this.k.x.release(p);
    }
    this.passes = [];
  }

  free(): void {
    this.clear();
  }
}

/** Samples by which each pass delays. */
export const passDelays = (values: StageValues, rate: number): number[] =>
  Array.from({ length: truePeaks(values) ? TRUE_PASSES : 1 }, () => passDelay(rate, truePeaks(values)));

/** Look-ahead limiter: no sample, or no true peak, passes the ceiling. */
export const limiter: StageKind = {
  type: 'limiter',
  name: 'Limiter',
  startsOn: true,
  params: [
    { id: 'ceiling', label: 'Ceiling', unit: 'dBFS', min: -24, max: 0, default: -0.2, step: 0.1, digits: 1 },
    { id: 'release', label: 'Release', unit: 'ms', min: 10, max: 1000, default: 80, step: 5, digits: 0, log: true },
    choiceParam('limits', 'Limits', ['sample peaks', 'true peaks']),
    linkParam,
  ],
  presets: [
    { name: 'Stem', values: { ceiling: -0.2, release: 80, limits: 0 } },
    { name: 'Reference, R 128', values: { ceiling: -1, release: 80, limits: 1 } },
  ],
  delay: (values, rate) => passDelays(values, rate).reduce((sum, d) => sum + d, 0),
  summary: (v) => `${valueOf(limiter, v, 'ceiling')} ${truePeaks(v) ? 'dBTP' : 'dBFS'}`,
  create: (k, rate, channels): StageRunner => new LimiterPasses(k, rate, channels),
  transfer: (_k, values, levels) => levels.map((l) => Math.min(l, valueOf(limiter, values, 'ceiling'))),
};
