import { RAMP_BYTES, ChannelSet, type Kernels } from '@/core/kernels';
import { ChainRunner } from './chainRunner';
import { GlidingDelay } from './glidingDelay';
import { LaneGain } from './laneGain';
import { LinkRunner } from './linkRunner';
import type { PlanNode } from './plan';
import type { Now } from './stretch';
import type { LanePoint } from '@/core/lanes';
import type { Tap } from '@/core/paths';

/** A node at work: its buffer, chain, gain and links, and the peaks seen since they were last read. */
export class NodeRunner {
  readonly buffer: ChannelSet;
  readonly chain: ChainRunner;
  /** By their ids, in the plan's order. */
  links = new Map<string, LinkRunner>();
  /** Links that are on their way to silence. */
  leaving: LinkRunner[] = [];
  /** Peaks before the chain and after the gain, per channel, linear. */
  readonly peaksIn: Float32Array;
  readonly peaksOut: Float32Array;
  private readonly trims: number[];
  /** Whether the trim was ever anything but unity. */
  private trimmed: boolean;
  /** Links that run, by where they take their sound: laid out once, since every block goes through them. */
  private taps: Record<Tap, LinkRunner[]> = { arriving: [], before: [], after: [] };
  private readonly gains: number[];
  /** The plan it follows now. */
  now: PlanNode;

  private readonly held: GlidingDelay;
  /** Level and mute that follow the timeline; null until there was such a lane. */
  private level: LaneGain | null = null;
  private sounds: LaneGain | null = null;

  constructor(
    private readonly k: Kernels,
    readonly plan: PlanNode,
    private readonly rate: number,
    private readonly mostFrames: number,
  ) {
    this.now = plan;
    this.buffer = new ChannelSet(k, plan.channels, mostFrames);
    this.chain = new ChainRunner(k, rate, plan.channels, mostFrames);
    this.peaksIn = new Float32Array(plan.channels);
    this.peaksOut = new Float32Array(plan.channels);
    this.held = new GlidingDelay(k, plan.channels, mostFrames, plan.hold ?? 0);
    this.trims = this.ramps(plan.trim ?? 1);
    this.trimmed = (plan.trim ?? 1) !== 1;
    this.gains = this.ramps(plan.gain);
  }

  private ramps(gain: number): number[] {
    return Array.from({ length: this.plan.channels }, () => {
      const ramp = this.k.x.alloc(RAMP_BYTES);
      this.k.x.rampInit(ramp, gain);
      return ramp;
    });
  }

  /** Follows the plan from now on: gain and chain, and how long its own material waits. */
  follow(node: PlanNode, glide: number): void {
    this.now = node;
    this.trimmed ||= (node.trim ?? 1) !== 1;
    for (const ramp of this.trims) this.k.x.rampTo(ramp, node.trim ?? 1, glide);
    for (const ramp of this.gains) this.k.x.rampTo(ramp, node.gain, glide);
    this.held.set(node.hold ?? 0, glide);
    this.level = this.lane(this.level, node.lanes?.level, true, glide);
    this.sounds = this.lane(this.sounds, node.lanes?.sounds, false, glide);
  }

  private lane(
    there: LaneGain | null,
    points: readonly LanePoint[] | undefined,
    decibels: boolean,
    glide: number,
  ): LaneGain | null {
    if (!there && !points) return null;
    const lane = there ?? new LaneGain(this.k, decibels, this.rate, this.mostFrames);
    lane.aim(points ?? null, glide);
    return lane;
  }

  /** Leads to what the plan says; `bufferOf`: the buffer of a node, `stays`: whether one is still there. */
  link(bufferOf: (id: string) => ChannelSet | undefined, stays: (buffer: ChannelSet) => boolean, glide: number): void {
    const before = this.links;
    this.links = new Map();
    for (const link of this.now.links) {
      const to = bufferOf(link.to)!;
      const old = before.get(link.id);
      if (old && old.to === to && old.tap === link.tap) {
        old.aim(link, glide);
        this.links.set(link.id, old);
        before.delete(link.id);
      } else
        this.links.set(
          link.id,
          new LinkRunner(this.k, link, this.plan.channels, to, this.mostFrames, this.rate, glide),
        );
    }
    for (const old of before.values()) this.leave(old, stays(old.to) ? glide : 0, glide > 0);
    this.layOut();
  }

  /** All its links go; what leads to a node that goes too needs no glide of its own. */
  unlink(stays: (buffer: ChannelSet) => boolean, glide: number): void {
    for (const link of this.links.values()) this.leave(link, stays(link.to) ? glide : 0, glide > 0);
    this.links.clear();
    this.layOut();
  }

  private layOut(): void {
    this.taps = { arriving: [], before: [], after: [] };
    for (const link of [...this.links.values(), ...this.leaving]) this.taps[link.tap].push(link);
  }

  private leave(link: LinkRunner, glide: number, sounds: boolean): void {
    if (!sounds) {
      link.free();
      return;
    }
    if (glide > 0) link.fadeOut(glide);
    this.leaving.push(link);
  }

  /** Lets go of the links that have gone silent. */
  settle(): void {
    this.leaving.forEach((l) => l.free());
    this.leaving = [];
    this.links.forEach((l) => l.settle());
    this.layOut();
  }

  /** Works on what stands in the buffer, and adds it to where it leads. */
  run(n: number, meters: boolean, now: Now): void {
    this.enter(n, meters, now);
    this.leaveChain(n, meters, now, false);
  }

  /**
   * Whether the ways of the two let them run side by side, as long as they lead as they do now: one channel each, neither
   * hears the other. What the other gives away before its chain would come before what this one gives away behind its own,
   * so there may be none.
   */
  mayRunBeside(other: NodeRunner): boolean {
    const narrow = this.plan.channels === 1 && other.plan.channels === 1;
    return narrow && other.taps.arriving.length === 0 && !this.reaches(other) && !other.listens;
  }

  /** Whether both begin with filters of the same shape at this moment. */
  opensLike(other: NodeRunner): boolean {
    const shape = this.chain.opening?.shape;
    return shape !== undefined && shape === other.chain.opening?.shape;
  }

  private reaches(other: NodeRunner): boolean {
    for (const link of this.links.values()) if (link.to === other.buffer) return true;
    return this.leaving.some((l) => l.to === other.buffer);
  }

  /** Whether a stage of it listens to another node. */
  private get listens(): boolean {
    return this.now.keys !== undefined && Object.keys(this.now.keys).length > 0;
  }

  /** Runs this and another one that may, and opens alike: the same samples as one after the other. */
  runBeside(other: NodeRunner, n: number, meters: boolean, now: Now): void {
    this.enter(n, meters, now);
    other.enter(n, meters, now);
    this.chain.opening!.runBeside(this.buffer.table, other.chain.opening!, other.buffer.table, n);
    this.leaveChain(n, meters, now, true);
    other.leaveChain(n, meters, now, true);
  }

  // Up to its chain.
  private enter(n: number, meters: boolean, now: Now): void {
    const { buffer } = this;
    if (!this.held.idle) this.held.run(buffer, n);
    if (this.trimmed) this.scale(this.trims, n);
    if (meters) this.watch(this.peaksIn, n);
    this.give('arriving', n, now);
  }

  // Its chain, and all behind it.
  private leaveChain(n: number, meters: boolean, now: Now, opened: boolean): void {
    const { buffer } = this;
    this.chain.run(buffer.table, n, now, opened);
    this.give('before', n, now);
    this.scale(this.gains, n);
    // Lanes follow the sound as it comes out: by what the chain delays later than it came in.
    if (this.level && !this.level.idle) this.level.run(buffer, n, now, this.now.lead);
    if (this.sounds && !this.sounds.idle) this.sounds.run(buffer, n, now, this.now.lead);
    if (meters) this.watch(this.peaksOut, n);
    this.give('after', n, now);
  }

  private scale(ramps: readonly number[], n: number): void {
    for (let c = 0; c < this.buffer.channels; c++) this.k.x.scaleRamp(ramps[c]!, this.buffer.at(c), n);
  }

  private give(tap: Tap, n: number, now: Now): void {
    for (const link of this.taps[tap]) link.run(this.buffer, n, now);
  }

  private watch(peaks: Float32Array, n: number): void {
    for (let c = 0; c < this.buffer.channels; c++) {
      const top = this.k.x.peakAbs(this.buffer.at(c), n);
      if (top > peaks[c]!) peaks[c] = top;
    }
  }

  free(): void {
    this.links.forEach((l) => l.free());
    this.settle();
    this.chain.free();
    this.held.free();
    this.buffer.free();
    this.level?.free();
    this.sounds?.free();
    [...this.trims, ...this.gains].forEach((g) => this.k.x.release(g));
  }
}
