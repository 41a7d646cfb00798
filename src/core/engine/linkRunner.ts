import type { Tap } from '@/core/paths';
import { rolledTo } from '@/core/session';
import { RAMP_BYTES, ChannelSet, type Kernels } from '@/core/kernels';
import { GlidingDelay } from './glidingDelay';
import { LaneGain } from './laneGain';
import { PlacedGains } from './placedGains';
import type { LinkLanes, PairGain, PlanLink } from './plan';
import type { Now } from './stretch';

/** Glide of what follows a place that is changed while nothing rolls. */
const GLIDE_SECONDS = 0.01;

/** A gliding gain from a channel to a channel. */
interface Pair {
  from: number;
  to: number;
  ramp: number;
  /** What the ramp heads for. */
  target: number;
}

/** Sound on its way from one node to another: gliding gains between pairs of channels, after a delay. */
export class LinkRunner {
  readonly tap: Tap;
  /** In order of the channel that it comes from, then of that it leads to: sums do not depend on what was changed. */
  private pairs: Pair[] = [];
  /** While it waits for its delay to fill: what it heads for then. */
  private later: { to: PlanLink; glide: number } | null = null;
  /** Gains that follow a place, on top of the gliding ones; and what they were made of. */
  private placed: PlacedGains | null = null;
  private lanes: LinkLanes | null = null;
  /** A level that follows the timeline; null until there was one. */
  private level: LaneGain | null = null;
  /** Where the last frame lay that was heard. */
  private place: number | null = null;
  /** Whether nothing rolled then. */
  private stood = false;
  private waiting = 0;
  private readonly delay: GlidingDelay;
  private late: ChannelSet | null = null;

  /** `glide`: samples in which a link that is made while sound runs comes in (0: it is there from the start). */
  constructor(
    private readonly k: Kernels,
    link: PlanLink,
    private readonly fromChannels: number,
    /** Buffer of the node that it leads to. */
    readonly to: ChannelSet,
    private readonly mostFrames: number,
    private readonly rate: number,
    glide: number,
  ) {
    this.tap = link.tap;
    this.delay = new GlidingDelay(k, fromChannels, mostFrames, link.delay);
    if (glide === 0) {
      this.pairs = link.gains.map(([from, to, gain]) => this.pair(from, to, gain));
      this.follow(link, 0);
      return;
    }
    // Comes in once its delay is filled: what glided while nothing came would end in a step.
    this.waiting = link.delay;
    this.later = { to: link, glide };
  }

  private pair(from: number, to: number, gain: number): Pair {
    const ramp = this.k.x.alloc(RAMP_BYTES);
    this.k.x.rampInit(ramp, gain);
    return { from, to, ramp, target: gain };
  }

  /** Heads for other gains and another delay. */
  aim(link: PlanLink, glide: number): void {
    this.delay.set(link.delay, glide);
    if (this.later) this.later.to = link;
    else this.turn(link, glide);
  }

  // What the lanes of a place gave until now and give from now on differs: the gliding gains take the difference.
  private turn(link: PlanLink, glide: number): void {
    const before = this.placedNow();
    this.follow(link, glide);
    this.bridge(before, this.placedNow(), glide);
    this.head(link.gains, glide);
  }

  private bridge(before: readonly number[] | null, after: readonly number[] | null, glide: number): void {
    if (!before && !after) return;
    const { channels } = this.to;
    for (let i = 0; i < this.fromChannels * channels; i++) {
      const by = (before?.[i] ?? 0) - (after?.[i] ?? 0);
      if (by !== 0) this.shift(Math.floor(i / channels), i % channels, by, glide);
    }
  }

  private shift(from: number, to: number, by: number, glide: number): void {
    let pair = this.pairs.find((p) => p.from === from && p.to === to);
    if (!pair) {
      pair = this.pair(from, to, 0);
      this.pairs.push(pair);
      this.pairs.sort((a, b) => a.from - b.from || a.to - b.to);
    }
    this.k.x.rampInit(pair.ramp, this.k.x.rampValue(pair.ramp) + by);
    this.k.x.rampTo(pair.ramp, pair.target, glide);
  }

  private placedNow(): number[] | null {
    return this.placed && this.place !== null ? this.placed.at(this.place) : null;
  }

  private follow(link: PlanLink, glide: number): void {
    const lanes = link.lanes ?? null;
    if (JSON.stringify(lanes?.place) !== JSON.stringify(this.lanes?.place))
      this.placed = lanes?.place ? new PlacedGains(this.k, lanes.place, this.to.channels) : null;
    this.lanes = lanes;
    if (lanes?.level || this.level) {
      this.level ??= new LaneGain(this.k, true, this.rate, this.mostFrames);
      this.level.aim(lanes?.level ?? null, glide);
    }
  }

  /** Heads for silence. */
  fadeOut(glide: number): void {
    this.later = null;
    this.waiting = 0;
    const before = this.placedNow();
    this.placed = null;
    this.bridge(before, null, glide);
    this.head([], glide);
  }

  private head(gains: readonly PairGain[], glide: number): void {
    const before = new Map(this.pairs.map((p) => [p.from * this.to.channels + p.to, p]));
    const next = gains.map(([from, to, gain]) => {
      const key = from * this.to.channels + to;
      const known = before.get(key);
      before.delete(key);
      return { pair: known ?? this.pair(from, to, 0), gain };
    });
    for (const pair of before.values()) next.push({ pair, gain: 0 });
    next.sort((a, b) => a.pair.from - b.pair.from || a.pair.to - b.pair.to);
    for (const { pair, gain } of next) {
      if (pair.target === gain) continue;
      pair.target = gain;
      this.k.x.rampTo(pair.ramp, gain, glide);
    }
    this.pairs = next.map(({ pair }) => pair);
  }

  /** Lets go of pairs that have gone silent. */
  settle(): void {
    const silent = (p: Pair) => p.target === 0 && this.k.x.rampValue(p.ramp) === 0;
    if (!this.pairs.some(silent)) return;
    for (const p of this.pairs) if (silent(p)) this.k.x.release(p.ramp);
    this.pairs = this.pairs.filter((p) => !silent(p));
  }

  // From silence to what it gives where the sound is now.
  private comeIn(later: { to: PlanLink; glide: number }, now: Now, skip: number): void {
    this.later = null;
    this.follow(later.to, 0);
    this.goTo({ ...now, at: now.still ? now.at : now.at + skip });
    this.bridge(null, this.placedNow(), later.glide);
    this.head(later.to.gains, later.glide);
  }

  private goTo({ at, loop, still }: Now): void {
    this.place = still ? at : rolledTo(at, -(this.lanes?.late ?? 0), loop);
  }

  // Nothing rolls, and the place is another one: what follows it glides.
  private moveStill(now: Now): void {
    const before = this.stood ? this.placedNow() : null;
    const moved = this.stood && this.place !== now.at;
    this.goTo(now);
    this.stood = now.still;
    if (moved && now.still && before) this.bridge(before, this.placedNow(), Math.round(GLIDE_SECONDS * this.rate));
  }

  /** Adds `n` frames of `from` to where it leads. */
  run(from: ChannelSet, n: number, now: Now): void {
    this.moveStill(now);
    let source = from;
    const leveled = this.lanes?.level ?? this.later?.to.lanes?.level ?? !(this.level?.idle ?? true);
    if (!this.delay.idle || leveled) {
      source = this.late ??= new ChannelSet(this.k, this.fromChannels, this.mostFrames);
      for (let c = 0; c < this.fromChannels; c++) this.k.x.copy(source.at(c), from.at(c), n);
      if (!this.delay.idle) this.delay.run(source, n);
    }
    let skip = 0;
    if (this.later) {
      skip = Math.min(n, this.waiting);
      this.waiting -= skip;
      if (skip === n) return;
      this.comeIn(this.later, now, skip);
    }
    const late = this.lanes?.late ?? 0;
    if (this.level && !this.level.idle) this.level.run(source, n, now, late);
    for (const p of this.pairs)
      this.k.x.mixRamp(p.ramp, source.at(p.from) + skip * 4, this.to.at(p.to) + skip * 4, n - skip);
    this.placed?.mix(source, this.to, n, skip, now, late);
    this.goTo({ ...now, at: now.still ? now.at : now.at + n });
  }

  free(): void {
    this.pairs.forEach((p) => this.k.x.release(p.ramp));
    this.delay.free();
    this.level?.free();
    this.late?.free();
  }
}
