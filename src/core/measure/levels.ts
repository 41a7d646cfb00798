import type { Kernels } from '@/core/kernels';

/** Stretches of the quietest half second: the noise floor. Common practice, no published source. */
const FLOOR_STRETCHES = 5;
const FULL_SCALE = 1;

export interface ChannelLevels {
  /** dBFS; a full-scale sine has an RMS of -3.01. */
  samplePeak: number;
  truePeak: number;
  rms: number;
  /** Peak over RMS in dB. */
  crest: number;
  /** Mean of the samples, linear. */
  dc: number;
  /** Samples at full scale or beyond. */
  overs: number;
  /** RMS in dBFS of the quietest half second that is not digital silence; -Infinity when there is none. */
  noiseFloor: number;
}

export interface Correlation {
  /** Channels of the pair. */
  pair: readonly [number, number];
  /** -1 to 1 over the whole; 0 when one of them is silent. */
  value: number;
  /** Lowest of the stretches of 100 ms in which both sound. */
  lowest: number;
}

const dB = (power: number): number => 10 * Math.log10(power);

/** Phase correlation of two signals: their product's mean over the root of their mean squares' product. */
export const correlationOf = (xy: number, xx: number, yy: number): number =>
  xx > 0 && yy > 0 ? xy / Math.sqrt(xx * yy) : 0;

class ChannelSums {
  sum = 0;
  squares = 0;
  overs = 0;
  hop = 0;
  readonly window: number[] = [];
  quietest = Infinity;

  endHop(frames: number): void {
    this.squares += this.hop;
    this.window.push(this.hop);
    if (this.window.length > FLOOR_STRETCHES) this.window.shift();
    if (this.window.length === FLOOR_STRETCHES) {
      const mean = this.window.reduce((a, b) => a + b, 0) / (FLOOR_STRETCHES * frames);
      if (mean > 0 && mean < this.quietest) this.quietest = mean;
    }
    this.hop = 0;
  }
}

class PairSums {
  xy = 0;
  hop = 0;
  lowest = Infinity;

  constructor(readonly pair: readonly [number, number]) {}

  endHop(a: number, b: number): void {
    this.xy += this.hop;
    if (a > 0 && b > 0) this.lowest = Math.min(this.lowest, correlationOf(this.hop, a, b));
    this.hop = 0;
  }
}

/** Sums that RMS, crest, direct current, overs, noise floor and phase correlation come from, in stretches of 100 ms. */
export class LevelSums {
  private readonly channels: ChannelSums[];
  private readonly pairs: PairSums[];
  private readonly hopFrames: number;
  private phase = 0;
  private frames = 0;

  constructor(
    private readonly k: Kernels,
    sampleRate: number,
    width: number,
    pairs: readonly (readonly [number, number])[],
  ) {
    this.hopFrames = Math.round(sampleRate / 10);
    this.channels = Array.from({ length: width }, () => new ChannelSums());
    this.pairs = pairs.map((p) => new PairSums(p));
  }

  run(table: number, n: number): void {
    const { k, channels } = this;
    const at = (c: number, i: number) => k.heapU32[(table >> 2) + c]! + i * 4;
    for (let i = 0; i < n;) {
      const part = Math.min(this.hopFrames - this.phase, n - i);
      channels.forEach((s, c) => {
        s.sum += k.x.sum(at(c, i), part);
        s.hop += k.x.product(at(c, i), at(c, i), part);
        if (k.x.peakAbs(at(c, i), part) >= FULL_SCALE) s.overs += k.x.countFrom(at(c, i), part, FULL_SCALE);
      });
      for (const p of this.pairs) p.hop += k.x.product(at(p.pair[0], i), at(p.pair[1], i), part);
      i += part;
      this.frames += part;
      this.phase += part;
      if (this.phase === this.hopFrames) this.endHop();
    }
  }

  private endHop(): void {
    for (const p of this.pairs) p.endHop(this.channels[p.pair[0]]!.hop, this.channels[p.pair[1]]!.hop);
    for (const c of this.channels) c.endHop(this.hopFrames);
    this.phase = 0;
  }

  /** `peaks`: true and sample peak of each channel, linear. */
  levels(peaks: readonly { truePeak: number; samplePeak: number }[]): ChannelLevels[] {
    return this.channels.map((c, i) => {
      const rms = this.frames ? dB((c.squares + c.hop) / this.frames) : -Infinity;
      const { truePeak, samplePeak } = peaks[i]!;
      return {
        samplePeak: 20 * Math.log10(samplePeak),
        truePeak: 20 * Math.log10(truePeak),
        rms,
        crest: samplePeak > 0 ? 20 * Math.log10(samplePeak) - rms : 0,
        dc: this.frames ? c.sum / this.frames : 0,
        overs: c.overs,
        noiseFloor: c.quietest < Infinity ? dB(c.quietest) : -Infinity,
      };
    });
  }

  correlations(): Correlation[] {
    return this.pairs.map((p) => {
      const [a, b] = [this.channels[p.pair[0]]!, this.channels[p.pair[1]]!];
      return {
        pair: p.pair,
        value: correlationOf(p.xy + p.hop, a.squares + a.hop, b.squares + b.hop),
        lowest: Number.isFinite(p.lowest) ? p.lowest : 0,
      };
    });
  }
}
