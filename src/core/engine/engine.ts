import { ChannelSet, type Kernels } from '@/core/kernels';
import { ChainRunner } from './chainRunner';
import { LinkRunner } from './linkRunner';
import type { Plan, PlanNode } from './plan';

const GLIDE_SECONDS = 0.01;

/** A node at work: its buffer, chain, gain and links, and the peaks seen since they were last read. */
export class NodeRunner {
  readonly buffer: ChannelSet;
  readonly chain: ChainRunner;
  readonly links = new Map<string, LinkRunner>();
  /** Peaks before the chain and after the gain, per channel, linear. */
  readonly peaksIn: Float32Array;
  readonly peaksOut: Float32Array;
  readonly gains: number[];
  /** The plan it follows now. */
  now: PlanNode;

  private rings: number[] = [];
  private ringSize = 0;
  private ringAt = 0;

  constructor(
    private readonly k: Kernels,
    readonly plan: PlanNode,
    rate: number,
    mostFrames: number,
  ) {
    this.now = plan;
    this.buffer = new ChannelSet(k, plan.channels, mostFrames);
    this.chain = new ChainRunner(k, rate, plan.channels);
    this.peaksIn = new Float32Array(plan.channels);
    this.peaksOut = new Float32Array(plan.channels);
    this.gains = Array.from({ length: plan.channels }, () => {
      const ramp = k.x.alloc(k.sizeOf('RAMP'));
      k.x.rampInit(ramp, plan.gain);
      return ramp;
    });
  }

  /** Holds the node's own material back by `samples` from now on. */
  wait(samples: number): void {
    if (samples === this.ringSize) return;
    this.rings.forEach((r) => this.k.x.release(r));
    this.rings = samples > 0 ? this.gains.map(() => this.k.x.alloc(samples * 4)) : [];
    this.ringSize = samples;
    this.ringAt = 0;
  }

  hold(n: number): void {
    if (this.ringSize === 0) return;
    let next = 0;
    this.rings.forEach((ring, c) => {
      next = this.k.x.delayRun(ring, this.ringSize, this.ringAt, this.buffer.at(c), n);
    });
    this.ringAt = next;
  }
}

/**
 * Runs a plan block by block. Live sound, recordings and prints all come from here.
 *
 *   engine.load(plan);
 *   engine.begin(n);                          // silence in all buffers
 *   engine.node('narrator').buffer.view(0, n).set(samples);
 *   engine.run(n);
 *   engine.node('ref').buffer                 // what the reference holds
 *
 * The result does not depend on the block size. A later `load` glides to the new values; what kept its
 * id keeps its state.
 */
export class Engine {
  private nodes: NodeRunner[] = [];
  private byId = new Map<string, NodeRunner>();
  private started = false;
  private sampleRate = 48000;

  constructor(
    private readonly k: Kernels,
    readonly mostFrames: number,
    private readonly options: { meters: boolean } = { meters: false },
  ) {}

  load(plan: Plan): void {
    this.sampleRate = plan.sampleRate;
    const glide = this.started ? Math.round(GLIDE_SECONDS * plan.sampleRate) : 0;
    const before = this.byId;
    this.byId = new Map();
    this.nodes = plan.nodes.map((node) => {
      const old = before.get(node.id);
      const keep = old && old.plan.channels === node.channels;
      const runner = keep ? old : new NodeRunner(this.k, node, plan.sampleRate, this.mostFrames);
      if (keep) before.delete(node.id);
      runner.now = node;
      for (const ramp of runner.gains) this.k.x.rampTo(ramp, node.gain, glide);
      this.byId.set(node.id, runner);
      return runner;
    });
    for (const runner of this.nodes) this.loadChain(runner);
    plan.nodes.forEach((node, i) => this.loadLinks(this.nodes[i]!, node, glide));
    for (const gone of before.values()) this.release(gone);
  }

  private loadChain(runner: NodeRunner): void {
    const { chain, keys, hold } = runner.now;
    runner.chain.load(chain, (stage) => {
      const key = keys && keys[stage] ? this.byId.get(keys[stage]) : undefined;
      return key ? { table: key.buffer.table, channels: key.buffer.channels } : null;
    });
    runner.wait(hold ?? 0);
  }

  private loadLinks(runner: NodeRunner, node: PlanNode, glide: number): void {
    for (const [to, old] of runner.links) {
      const target = this.byId.get(to);
      if (target && target.plan.channels === old.toChannels && !node.links.some((l) => l.to === to)) old.fadeOut(glide);
      else if (!target || target.plan.channels !== old.toChannels) {
        old.free();
        runner.links.delete(to);
      }
    }
    for (const link of node.links) {
      const old = runner.links.get(link.to);
      if (old && old.delay === link.delay) {
        old.aim(link.gains, glide);
        continue;
      }
      old?.free();
      runner.links.set(link.to, new LinkRunner(this.k, link, this.mostFrames, this.started ? glide : 0));
    }
  }

  /** Forgets all sound in tracks and buses, as if nothing had run; lines go on undisturbed. */
  restart(): void {
    const plan = { sampleRate: this.sampleRate, nodes: this.nodes.map((n) => n.now) };
    for (const node of this.nodes) {
      if (node.plan.kind === 'line') continue;
      this.release(node);
      this.byId.delete(node.plan.id);
    }
    this.started = false;
    this.load(plan);
  }

  private release(node: NodeRunner): void {
    node.links.forEach((l) => l.free());
    node.chain.free();
    node.wait(0);
    node.buffer.free();
    node.gains.forEach((g) => this.k.x.release(g));
  }

  has(id: string): boolean {
    return this.byId.has(id);
  }

  /** Throws RangeError for an id that is not in the plan. */
  node(id: string): NodeRunner {
    const found = this.byId.get(id);
    if (!found) throw new RangeError(`no node "${id}" in the plan`);
    return found;
  }

  /** Silences every buffer for a block of `n` samples. */
  begin(n: number): void {
    for (const node of this.nodes) node.buffer.clear(n);
  }

  /** Processes the block: chains, gains, links, in plan order. */
  run(n: number): void {
    this.started = true;
    const { x } = this.k;
    for (const node of this.nodes) {
      const { buffer } = node;
      if (this.options.meters) this.watch(node.peaksIn, buffer, n);
      node.hold(n);
      node.chain.run(buffer.table, n);
      for (let c = 0; c < buffer.channels; c++) x.scaleRamp(node.gains[c]!, buffer.at(c), n);
      if (this.options.meters) this.watch(node.peaksOut, buffer, n);
      for (const [to, link] of node.links) link.run(buffer, this.byId.get(to)!.buffer, n);
    }
  }

  private watch(peaks: Float32Array, buffer: ChannelSet, n: number): void {
    for (let c = 0; c < buffer.channels; c++) {
      const top = this.k.x.peakAbs(buffer.at(c), n);
      if (top > peaks[c]!) peaks[c] = top;
    }
  }

  get all(): readonly NodeRunner[] {
    return this.nodes;
  }

  get rate(): number {
    return this.sampleRate;
  }
}
