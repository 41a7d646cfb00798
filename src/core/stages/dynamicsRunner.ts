import { RAMP_BYTES, ChannelSet, type Kernels } from '@/core/kernels';
import { COEF_BYTES, SectionStates } from './filterRunner';
import type { Key, StageRunner, StageValues } from './stage';

/** What a stage with a gain of its own tells the kernel. */
export interface DynamicsLaw {
  /** 0 compressor, 1 expander. */
  kernel: 0 | 1;
  /** Sets the values; switched off it must leave the sound as it is. */
  set(k: Kernels, p: number, rate: number, values: StageValues, on: boolean): void;
  /** Filter in front of the detectors: writes coefficients to `out`, returns the section count. */
  sideChain?(k: Kernels, out: number, rate: number, values: StageValues): number;
  /** Whether the gain works on the band only that the side-chain filter passes (1), or on all of it (0). */
  bandShare?(values: StageValues): number;
}

const MOST_SECTIONS = 2;
const GLIDE_SECONDS = 0.01;

/** Runs a stage whose gain follows a level; one that was never switched on costs nothing. */
export class DynamicsRunner implements StageRunner {
  private readonly state: number;
  private readonly coefs: number;
  private readonly filters: SectionStates;
  private ever = false;
  private detectors: ChannelSet | null = null;
  private wet: ChannelSet | null = null;
  private kept: ChannelSet | null = null;
  /** Shares of the band and of the whole in what the gain works on: two ramps a channel. */
  private readonly shares: number[] = [];
  private fresh = true;

  constructor(
    private readonly law: DynamicsLaw,
    private readonly k: Kernels,
    private readonly rate: number,
    private readonly channels: number,
  ) {
    this.state = k.x.alloc(k.x.dynamicsBytes(channels));
    k.x.dynamicsInit(this.state, law.kernel, channels);
    this.coefs = k.x.alloc(COEF_BYTES * MOST_SECTIONS);
    this.filters = new SectionStates(k, rate, channels, MOST_SECTIONS);
    if (law.bandShare) this.shares = Array.from({ length: 2 * channels }, () => k.x.alloc(RAMP_BYTES));
  }

  set(values: StageValues, on: boolean): void {
    this.ever ||= on;
    this.law.set(this.k, this.state, this.rate, values, on);
    this.filters.aim(this.coefs, this.law.sideChain?.(this.k, this.coefs, this.rate, values) ?? 0);
    const band = this.law.bandShare?.(values) ?? 0;
    const glide = this.fresh ? 0 : Math.round(GLIDE_SECONDS * this.rate);
    this.shares.forEach((ramp, i) => this.k.x.rampTo(ramp, i % 2 ? 1 - band : band, glide));
    this.fresh = false;
  }

  run(chans: number, n: number, key: Key | null = null): void {
    if (!this.ever) return;
    const { k, channels } = this;
    let ears: Key = key ?? { table: chans, channels };
    if (this.filters.used > 0) {
      const set = (this.detectors = roomy(k, this.detectors, channels, n));
      // A key may be narrower than the stage, never wider than the copies made of it here.
      const width = Math.min(ears.channels, channels);
      for (let c = 0; c < width; c++) k.x.copy(set.at(c), k.heapU32[(ears.table >> 2) + c]!, n);
      this.filters.run(set.table, width, n);
      ears = { table: set.table, channels: width };
    }
    const keys = ears.channels === channels ? channels : 1;
    if (this.shares.length === 0) {
      k.x.dynamicsRun(this.state, chans, ears.table, keys, n);
      return;
    }
    // out = in + (gain - 1) * part: while the gain is one, nothing at all is changed.
    const wet = (this.wet = roomy(k, this.wet, channels, n));
    const kept = (this.kept = roomy(k, this.kept, channels, n));
    for (let c = 0; c < channels; c++) {
      k.x.clear(wet.at(c), n);
      k.x.mixRamp(this.shares[2 * c]!, this.detectors!.at(c), wet.at(c), n);
      k.x.mixRamp(this.shares[2 * c + 1]!, k.heapU32[(chans >> 2) + c]!, wet.at(c), n);
      k.x.copy(kept.at(c), wet.at(c), n);
    }
    k.x.dynamicsRun(this.state, wet.table, ears.table, keys, n);
    for (let c = 0; c < channels; c++) {
      k.x.mix(kept.at(c), wet.at(c), n, -1);
      k.x.mix(wet.at(c), k.heapU32[(chans >> 2) + c]!, n, 1);
    }
  }

  reduction(): number {
    return this.k.x.dynamicsReduction(this.state);
  }

  free(): void {
    [this.state, this.coefs, ...this.shares].forEach((p) => this.k.x.release(p));
    this.filters.free();
    this.detectors?.free();
    this.wet?.free();
    this.kept?.free();
  }
}

/** A set with room for `n` frames: the given one, or a larger one in its place. */
export function roomy(k: Kernels, set: ChannelSet | null, channels: number, n: number): ChannelSet {
  if (set && set.frames >= n) return set;
  set?.free();
  return new ChannelSet(k, channels, n);
}
