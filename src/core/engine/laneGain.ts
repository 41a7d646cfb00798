import { laneValue, pointBefore, sameLane, type LanePoint } from '@/core/lanes';
import type { ChannelSet, Kernels } from '@/core/kernels';
import { stretchesLate, type Now, type Stretch } from './stretch';

/** A jump of a lane is heard as a short glide (seconds): a step in the sound would click. Common practice, no source. */
const JUMP_SECONDS = 0.005;
const SHAPES = { line: 0, step: 1, smooth: 2 };

interface Jump {
  at: number;
  /** Gain before it, less the gain after it. */
  offset: number;
}

/**
 * A gain that follows a lane sample by sample. It is a function of the place on the timeline alone; only where the lane
 * itself is changed while sound runs does it glide from what was heard, over so many samples, to the new one.
 */
export class LaneGain {
  private points: readonly LanePoint[] | null = null;
  private jumps: Jump[] = [];
  private readonly gains: number;
  private readonly jump: number;
  /** Gain of the frame that was heard last; null while nothing was. */
  private heard: number | null = null;
  /** Glide that begins with the next frame; and of the one that runs: the difference, its length, what is left. */
  private due = 0;
  private offset = 0;
  private glide = 0;
  private left = 0;
  /** Gain at which it stands while nothing rolls; null while something does. */
  private stands: number | null = null;

  /** `decibels`: whether the lane's values are levels; else they are gains. */
  constructor(
    private readonly k: Kernels,
    private readonly decibels: boolean,
    rate: number,
    mostFrames: number,
  ) {
    this.gains = k.x.alloc(mostFrames * 8);
    this.jump = Math.round(JUMP_SECONDS * rate);
  }

  /** Follows another lane (null: none, the gain is 1), over `glide` samples. */
  aim(points: readonly LanePoint[] | null, glide: number): void {
    if (points === this.points || (points && this.points && sameLane(points, this.points))) return;
    // What had no lane was heard with a gain of one.
    if (glide > 0 && !this.points) this.heard ??= 1;
    this.points = points;
    this.jumps = [];
    points?.forEach((p, i) => {
      const next = points[i + 1];
      if (p.shape === 'step' && next && next.value !== p.value)
        this.jumps.push({ at: next.at, offset: this.gainOf(p.value) - this.gainOf(next.value) });
    });
    this.due = glide;
  }

  /** Whether it changes nothing. */
  get idle(): boolean {
    return this.points === null && this.due === 0 && this.left === 0;
  }

  private gainOf(value: number): number {
    return this.decibels ? this.k.gain(value) : value;
  }

  /** Jumps that are heard in these samples. */
  private jumpsIn(at: number, n: number): readonly Jump[] {
    if (this.jumps.length === 0) return this.jumps;
    return this.jumps.slice(pointBefore(this.jumps, at - this.jump) + 1, pointBefore(this.jumps, at + n - 1) + 1);
  }

  private gainAt(place: number): number {
    if (!this.points) return 1;
    let gain = this.gainOf(laneValue(this.points, place));
    for (const j of this.jumpsIn(place, 1)) gain += j.offset * (1 - (place - j.at) / this.jump);
    return gain;
  }

  /** Multiplies `n` frames of a node's sound, which is late by `late` samples. */
  run(buffer: ChannelSet, n: number, now: Now, late: number): void {
    const stretches = stretchesLate(now, n, late);
    const first = this.gainAt(stretches[0]!.at);
    // A lane that was changed, or the place while nothing rolls: no step.
    const stands = now.still ? first : null;
    const glide = this.due || (stands !== this.stands ? this.jump : 0);
    if (glide > 0 && this.heard !== null) {
      this.offset = this.heard - first;
      this.glide = this.left = this.offset === 0 ? 0 : glide;
    }
    this.due = 0;
    this.stands = stands;
    for (const s of stretches) this.part(buffer, s, now.still);
  }

  private part(buffer: ChannelSet, { from, n, at }: Stretch, still: boolean): void {
    const { k } = this;
    const constant = this.left === 0 ? this.constantIn(at, still ? 1 : n) : null;
    if (constant !== null) {
      for (let c = 0; c < buffer.channels; c++) k.x.scale(buffer.at(c) + from * 4, n, constant);
      this.heard = constant;
      return;
    }
    if (still || !this.points) k.x.laneFill(this.gains, n, 0, 1, this.gainAt(at), 0, SHAPES.step);
    else this.fill(at, n);
    if (this.left > 0) {
      k.x.laneFade(this.gains, n, this.glide - this.left, this.glide, this.offset);
      this.left = Math.max(0, this.left - n);
    }
    for (let c = 0; c < buffer.channels; c++) k.x.laneScale(this.gains, buffer.at(c) + from * 4, n);
    this.heard = k.f64(this.gains, n)[n - 1]!;
  }

  // The one gain of all these samples; null where it changes.
  private constantIn(at: number, n: number): number | null {
    if (!this.points) return 1;
    if (this.jumpsIn(at, n).length > 0) return null;
    const i = pointBefore(this.points, at);
    const [p, next] = [this.points[Math.max(0, i)]!, this.points[i + 1]];
    const flat = i < 0 || !next || p.shape === 'step' || p.value === next.value;
    return flat && (!next || at + n <= next.at) ? this.gainOf(p.value) : n === 1 ? this.gainAt(at) : null;
  }

  private fill(at: number, n: number): void {
    const { k } = this;
    const points = this.points!;
    for (let b = 0; b < n;) {
      const i = pointBefore(points, at + b);
      const [p, next] = [points[Math.max(0, i)]!, points[i + 1]];
      const m = Math.min(n - b, next ? next.at - at - b : Infinity);
      const out = this.gains + b * 8;
      if (i < 0 || !next || p.value === next.value) k.x.laneFill(out, m, 0, 1, p.value, p.value, SHAPES.step);
      else k.x.laneFill(out, m, at + b - p.at, next.at - p.at, p.value, next.value, SHAPES[p.shape]);
      b += m;
    }
    if (this.decibels) k.x.laneGains(this.gains, n);
    for (const j of this.jumpsIn(at, n)) {
      const first = Math.max(0, j.at - at);
      k.x.laneFade(this.gains + first * 8, n - first, Math.max(0, at - j.at), this.jump, j.offset);
    }
  }

  free(): void {
    this.k.x.release(this.gains);
  }
}
