import { RAMP_BYTES, ChannelSet, type Kernels } from '@/core/kernels';

interface Line {
  /** Samples of delay. */
  size: number;
  rings: number[];
  at: number;
}

/**
 * Delays several channels by whole samples. Another delay is heard once its line holds enough sound: then one glides
 * into the other, so that a change makes no step.
 */
export class GlidingDelay {
  private line: Line;
  private next: { line: Line; copy: ChannelSet; out: number[]; in: number[]; wait: number; left: number } | null = null;
  private wanted: { samples: number; glide: number } | null = null;
  private passed = 0;

  constructor(
    private readonly k: Kernels,
    private readonly channels: number,
    private readonly mostFrames: number,
    samples: number,
  ) {
    this.line = this.newLine(samples);
  }

  /** Samples of delay that it has, or is on its way to. */
  get samples(): number {
    return this.wanted?.samples ?? this.next?.line.size ?? this.line.size;
  }

  /** Whether sound passes as it is. */
  get idle(): boolean {
    return this.line.size === 0 && this.next === null;
  }

  /** Samples until sound comes out, after a start with an empty line. */
  get filling(): number {
    return Math.max(0, this.line.size - this.passed);
  }

  /** Heads for another delay, in samples; `glide`: samples that the change takes (0: at once, without the old sound). */
  set(samples: number, glide: number): void {
    if (samples === this.samples) return;
    if (glide === 0) {
      this.drop();
      this.release(this.line);
      this.line = this.newLine(samples);
      this.passed = 0;
    } else if (this.next) this.wanted = { samples, glide };
    else this.begin(samples, glide);
  }

  private begin(samples: number, glide: number): void {
    const ramp = (from: number, to: number) => {
      const r = this.k.x.alloc(RAMP_BYTES);
      this.k.x.rampInit(r, from);
      this.k.x.rampTo(r, to, glide);
      return r;
    };
    const each = <T>(make: () => T): T[] => Array.from({ length: this.channels }, make);
    this.next = {
      line: this.newLine(samples),
      copy: new ChannelSet(this.k, this.channels, this.mostFrames),
      out: each(() => ramp(1, 0)),
      in: each(() => ramp(0, 1)),
      wait: samples,
      left: glide,
    };
  }

  /** Delays `n` frames in place. */
  run(set: ChannelSet, n: number): void {
    const { next, k } = this;
    this.passed = Math.min(this.line.size, this.passed + n);
    if (!next) {
      this.hold(this.line, set, n);
      return;
    }
    for (let c = 0; c < this.channels; c++) k.x.copy(next.copy.at(c), set.at(c), n);
    this.hold(this.line, set, n);
    this.hold(next.line, next.copy, n);
    const skip = Math.min(n, next.wait);
    next.wait -= skip;
    if (skip === n) return;
    for (let c = 0; c < this.channels; c++) {
      k.x.scaleRamp(next.out[c]!, set.at(c) + skip * 4, n - skip);
      k.x.mixRamp(next.in[c]!, next.copy.at(c) + skip * 4, set.at(c) + skip * 4, n - skip);
    }
    next.left -= n - skip;
    if (next.left <= 0) this.arrive(next.line);
  }

  private arrive(line: Line): void {
    this.release(this.line);
    this.line = line;
    this.passed = line.size;
    this.next!.line = this.newLine(0);
    this.drop();
    const { wanted } = this;
    this.wanted = null;
    if (wanted && wanted.samples !== line.size) this.begin(wanted.samples, wanted.glide);
  }

  private hold(line: Line, set: ChannelSet, n: number): void {
    if (line.size === 0) return;
    let next = 0;
    line.rings.forEach((ring, c) => {
      next = this.k.x.delayRun(ring, line.size, line.at, set.at(c), n);
    });
    line.at = next;
  }

  private newLine(size: number): Line {
    const rings = size > 0 ? Array.from({ length: this.channels }, () => this.k.x.alloc(size * 4)) : [];
    return { size, rings, at: 0 };
  }

  private release(line: Line): void {
    line.rings.forEach((r) => this.k.x.release(r));
  }

  private drop(): void {
    if (!this.next) return;
    this.release(this.next.line);
    [...this.next.out, ...this.next.in].forEach((r) => this.k.x.release(r));
    this.next.copy.free();
    this.next = null;
  }

  free(): void {
    this.drop();
    this.release(this.line);
  }
}
