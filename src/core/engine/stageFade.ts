import { RAMP_BYTES, ChannelSet, type Kernels } from '@/core/kernels';

/** Brings a stage of a running chain in, or takes it out, between its sound and what came to it. */
export class StageFade {
  private readonly before: ChannelSet;
  private readonly wet: number[];
  private readonly dry: number[];
  private left: number;

  /**
   * `wait`: samples until a stage that comes in gives sound; `glide`: samples that it takes then.
   */
  constructor(
    private readonly k: Kernels,
    private readonly channels: number,
    mostFrames: number,
    readonly leaving: boolean,
    private wait: number,
    glide: number,
  ) {
    this.before = new ChannelSet(k, channels, mostFrames);
    const ramps = (from: number) =>
      Array.from({ length: channels }, () => {
        const r = k.x.alloc(RAMP_BYTES);
        k.x.rampInit(r, from);
        k.x.rampTo(r, 1 - from, glide);
        return r;
      });
    this.wet = ramps(leaving ? 1 : 0);
    this.dry = ramps(leaving ? 0 : 1);
    this.left = glide;
  }

  /** Whether the way is done. */
  get done(): boolean {
    return this.left <= 0;
  }

  /** Keeps what comes to the stage. */
  keep(table: number, n: number): void {
    for (let c = 0; c < this.channels; c++) this.k.x.copy(this.before.at(c), this.k.heapU32[(table >> 2) + c]!, n);
  }

  /** Lays what came over what the stage made of it. */
  lay(table: number, n: number): void {
    const { k } = this;
    const skip = Math.min(n, this.wait);
    this.wait -= skip;
    for (let c = 0; c < this.channels; c++) {
      const at = k.heapU32[(table >> 2) + c]!;
      if (skip > 0) k.x.copy(at, this.before.at(c), skip);
      if (skip === n) continue;
      k.x.scaleRamp(this.wet[c]!, at + skip * 4, n - skip);
      k.x.mixRamp(this.dry[c]!, this.before.at(c) + skip * 4, at + skip * 4, n - skip);
    }
    this.left -= n - skip;
  }

  free(): void {
    [...this.wet, ...this.dry].forEach((r) => this.k.x.release(r));
    this.before.free();
  }
}
