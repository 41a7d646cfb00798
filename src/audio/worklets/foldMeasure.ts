import { HEARD_AS, MONITOR_NODE, type Engine, type Plan } from '@/core/engine';
import type { ChannelSet, Kernels } from '@/core/kernels';
import { FoldWatch, Measure, type FoldReading } from '@/core/measure';

/** What is heard of the mix in something narrower, as it is before the monitor's level. */
export interface FoldFrame {
  /** Weighted mean squares, 100 ms each; the largest true peak, linear. */
  hops: number[];
  truePeak: number;
  /** Which measure they come from: another one when what is listened to, or the monitor's level, changed. */
  measures: number;
  readings: FoldReading[];
}

/** Follows the loudness, peaks and phase of what the monitor is listened to as. */
export class FoldMeasure {
  private measure: Measure | null = null;
  private watch: FoldWatch | null = null;
  private shape = '';
  private sent = 0;
  private gain = 1;
  private mix: ChannelSet | null = null;
  private folded: ChannelSet | null = null;
  private mixAt: number[] = [];
  private foldedAt: number[] = [];
  private count = 0;

  constructor(
    private readonly k: Kernels,
    private readonly mostFrames: number,
  ) {}

  load(plan: Plan): void {
    const node = plan.nodes.find((n) => n.id === HEARD_AS);
    const monitor = plan.nodes.find((n) => n.id === MONITOR_NODE);
    const link = monitor?.links.find((l) => l.to === HEARD_AS);
    const shape = node && link ? JSON.stringify([monitor!.gain, node.weights, link.gains, node.chain]) : '';
    if (shape === this.shape) return;
    this.shape = shape;
    this.measure?.free();
    this.measure = null;
    this.watch = null;
    this.sent = 0;
    this.count++;
    // A monitor that is muted gives no figures.
    if (!node?.weights || !monitor || !link || monitor.gain <= 0) return;
    this.gain = monitor.gain;
    this.measure = new Measure(this.k, plan.sampleRate, node.weights, this.mostFrames, { silence: false });
    if (node.chain.length > 0) return;
    const gains = Array.from({ length: monitor.channels }, () => Array.from({ length: node.channels }, () => 0));
    for (const [from, to, gain] of link.gains) gains[from]![to] = gain * monitor.gain;
    this.watch = new FoldWatch(plan.sampleRate, gains);
  }

  reset(): void {
    this.measure?.reset();
    this.sent = 0;
  }

  run(engine: Engine, n: number): void {
    if (!this.measure || !engine.has(HEARD_AS)) return;
    const { buffer } = engine.node(HEARD_AS);
    this.measure.run(buffer.table, n);
    if (!this.watch) return;
    const mix = engine.node(MONITOR_NODE).buffer;
    if (mix !== this.mix || buffer !== this.folded) this.look(mix, buffer);
    this.watch.run(this.k.heap, this.mixAt, this.foldedAt, n);
  }

  // Where the channels stand is worked out when buffers are new, not in every block.
  private look(mix: ChannelSet, folded: ChannelSet): void {
    [this.mix, this.folded] = [mix, folded];
    const places = (set: ChannelSet) => Array.from({ length: set.channels }, (_, c) => set.at(c) >> 2);
    [this.mixAt, this.foldedAt] = [places(mix), places(folded)];
  }

  /** What is new since it was last asked; null while the monitor is heard as it is mixed. */
  take(): FoldFrame | null {
    if (!this.measure) return null;
    const stretches = this.measure.stretches;
    const hops = Array.from(stretches.subarray(this.sent), (h) => h / this.gain ** 2);
    this.sent = stretches.length;
    const truePeak = this.measure.truePeakLinear / this.gain;
    return { hops, truePeak, measures: this.count, readings: this.watch?.take() ?? [] };
  }
}
