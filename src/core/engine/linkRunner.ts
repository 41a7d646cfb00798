import { ChannelSet, type Kernels } from '@/core/kernels';
import type { PlanLink } from './plan';

/** Sound on its way from one node to another: a gliding gain per pair of channels, after a delay. */
export class LinkRunner {
  readonly delay: number;
  readonly toChannels: number;
  private readonly fromChannels: number;
  private readonly ramps: number[];
  private readonly targets: Float64Array;
  private readonly late: ChannelSet | null = null;
  private readonly rings: number[] = [];
  private ring = 0;

  constructor(
    private readonly k: Kernels,
    link: PlanLink,
    mostFrames: number,
    glide: number,
  ) {
    this.delay = link.delay;
    this.fromChannels = link.gains.length;
    this.toChannels = link.gains[0]?.length ?? 0;
    const flat = link.gains.flat();
    this.targets = Float64Array.from(flat);
    this.ramps = flat.map((gain) => {
      const ramp = k.x.alloc(k.sizeOf('RAMP'));
      k.x.rampInit(ramp, glide ? 0 : gain);
      return ramp;
    });
    if (glide) this.aim(link.gains, glide);
    if (this.delay > 0) {
      this.late = new ChannelSet(k, this.fromChannels, mostFrames);
      this.rings = link.gains.map(() => k.x.alloc(this.delay * 4));
    }
  }

  aim(gains: number[][], glide: number): void {
    gains.flat().forEach((gain, i) => {
      if (this.targets[i] === gain) return;
      this.targets[i] = gain;
      this.k.x.rampTo(this.ramps[i]!, gain, glide);
    });
  }

  fadeOut(glide: number): void {
    this.aim(
      Array.from({ length: this.fromChannels }, () => Array<number>(this.toChannels).fill(0)),
      glide,
    );
  }

  run(from: ChannelSet, to: ChannelSet, n: number): void {
    const source = this.late ?? from;
    if (this.late) this.hold(from, this.late, n);
    for (let a = 0; a < this.fromChannels; a++) {
      for (let b = 0; b < this.toChannels; b++) {
        this.k.x.mixRamp(this.ramps[a * this.toChannels + b]!, source.at(a), to.at(b), n);
      }
    }
  }

  private hold(from: ChannelSet, late: ChannelSet, n: number): void {
    let next = 0;
    for (let c = 0; c < this.fromChannels; c++) {
      this.k.x.copy(late.at(c), from.at(c), n);
      next = this.k.x.delayRun(this.rings[c]!, this.delay, this.ring, late.at(c), n);
    }
    this.ring = next;
  }

  free(): void {
    this.ramps.forEach((r) => this.k.x.release(r));
    this.rings.forEach((r) => this.k.x.release(r));
    this.late?.free();
  }
}
