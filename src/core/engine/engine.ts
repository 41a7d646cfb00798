import { type ChannelSet, type Kernels } from '@/core/kernels';
import { runOrder } from './runOrder';
import { NodeRunner } from './nodeRunner';
import type { Plan } from './plan';
import type { Loop } from './stretch';

const GLIDE_SECONDS = 0.01;

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
 * id keeps its state, and what is gone sounds on until the glide is over.
 */
export class Engine {
  private nodes: NodeRunner[] = [];
  private byId = new Map<string, NodeRunner>();
  /** Nodes that are not in the plan any more, until their links have gone silent. */
  private gone: NodeRunner[] = [];
  /** What runs in turn: nodes of the plan and those that are gone. */
  private order: NodeRunner[] = [];
  /** Of each in turn, whether it may run beside the next one. */
  private beside: boolean[] = [];
  /** Samples until everything that is gone has gone silent. */
  private fading = 0;
  private started = false;
  private sampleRate = 48000;
  private loop: Loop | null = null;
  /** Where the next block lies. */
  private next = 0;

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
      runner.follow(node, glide);
      this.byId.set(node.id, runner);
      return runner;
    });
    for (const runner of this.nodes) this.loadChain(runner, glide);
    const buffers = new Set(this.nodes.map((r) => r.buffer));
    const stays = (buffer: ChannelSet) => buffers.has(buffer);
    for (const runner of this.nodes) runner.link((id) => this.byId.get(id)?.buffer, stays, glide);
    for (const old of before.values()) {
      if (glide === 0) old.free();
      else {
        old.unlink(stays, glide);
        this.gone.push(old);
      }
    }
    this.fading = glide;
    const going = this.gone.length > 0 || this.nodes.some((r) => r.leaving.length > 0);
    this.runIn(going ? runOrder(this.nodes, this.gone, this.byId) : this.nodes);
  }

  private loadChain(runner: NodeRunner, glide: number): void {
    const { chain, keys } = runner.now;
    runner.chain.load(
      chain,
      (stage) => {
        const key = keys && keys[stage] ? this.byId.get(keys[stage]) : undefined;
        return key ? { table: key.buffer.table, channels: key.buffer.channels } : null;
      },
      glide,
      runner.now.lanes ?? null,
    );
  }

  /** Forgets all sound in tracks and buses, as if nothing had run; lines go on undisturbed. */
  restart(): void {
    const plan = { sampleRate: this.sampleRate, nodes: this.nodes.map((n) => n.now) };
    this.settle();
    for (const node of this.nodes) {
      if (node.plan.kind === 'line' || node.plan.kind === 'heard') continue;
      node.free();
      this.byId.delete(node.plan.id);
    }
    this.started = false;
    this.load(plan);
  }

  // Laid out once: every block goes through it.
  private runIn(order: NodeRunner[]): void {
    this.order = order;
    this.beside = order.map((node, i) => i + 1 < order.length && node.mayRunBeside(order[i + 1]!));
  }

  // What is gone is silent now.
  private settle(): void {
    this.gone.forEach((n) => n.free());
    this.gone = [];
    this.nodes.forEach((n) => n.settle());
    this.runIn(this.nodes);
    this.fading = 0;
  }

  /** Whether the node is in the plan, or sounds on. */
  has(id: string): boolean {
    return this.find(id) !== undefined;
  }

  private find(id: string): NodeRunner | undefined {
    return this.byId.get(id) ?? (this.gone.length > 0 ? this.gone.find((n) => n.plan.id === id) : undefined);
  }

  /** Throws RangeError for an id that is not in the plan. */
  node(id: string): NodeRunner {
    const found = this.find(id);
    if (!found) throw new RangeError(`no node "${id}" in the plan`);
    return found;
  }

  /** Silences every buffer for a block of `n` samples. */
  begin(n: number): void {
    for (const node of this.order) node.buffer.clear(n);
  }

  /** Lanes go round in this stretch from now on, as the sound that is given does; null: they go on. */
  goRound(loop: Loop | null): void {
    this.loop = loop;
  }

  /**
   * Processes the block: chains, gains, links, in plan order. `at`: sample of the timeline of its first frame, counted on
   * without going round; left out: it goes on from the block before. `still`: nothing rolls, all of it is at `at`.
   */
  run(n: number, at = this.next, still = false): void {
    this.started = true;
    this.next = still ? at : at + n;
    const now = { at, loop: this.loop, still };
    const { order, options } = this;
    for (let i = 0; i < order.length; i++) {
      const node = order[i]!;
      if (this.beside[i] && node.opensLike(order[i + 1]!)) node.runBeside(order[++i]!, n, options.meters, now);
      else node.run(n, options.meters, now);
    }
    if (this.fading > 0) {
      this.fading -= n;
      if (this.fading <= 0) this.settle();
    }
  }

  get all(): readonly NodeRunner[] {
    return this.nodes;
  }

  get rate(): number {
    return this.sampleRate;
  }
}
