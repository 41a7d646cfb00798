import type { Engine, Plan } from '@/core/engine';
import type { Kernels } from '@/core/kernels';
import { Measure } from '@/core/measure';

/** Follows the loudness of the reference. */
export class ReferenceMeasure {
  private measure: Measure | null = null;
  private node = '';
  /** What the measure was made for: the reference and the weights of its channels. */
  private shape = '';
  private sent = 0;
  /** How many measures there were: figures of one do not go on in the next. */
  count = 0;

  constructor(
    private readonly k: Kernels,
    private readonly mostFrames: number,
  ) {}

  /** Measures what this plan says. Another layout has other weights: what was measured so far says nothing of it. */
  load(plan: Plan): void {
    const measured = plan.nodes.find((n) => n.weights && n.kind === 'bus');
    const shape = measured ? `${measured.id} ${measured.weights!.join()}` : '';
    if (shape === this.shape) return;
    this.shape = shape;
    this.measure?.free();
    this.measure = measured
      ? new Measure(this.k, plan.sampleRate, measured.weights!, this.mostFrames, { silence: false })
      : null;
    this.node = measured?.id ?? '';
    this.sent = 0;
    this.count++;
  }

  reset(): void {
    this.measure?.reset();
    this.sent = 0;
  }

  run(engine: Engine, n: number): void {
    if (this.measure && engine.has(this.node)) this.measure.run(engine.node(this.node).buffer.table, n);
  }

  /** What is new since it was last asked. */
  take(): { hops: number[]; truePeak: number; measures: number } {
    const stretches = this.measure?.stretches ?? new Float64Array(0);
    const hops = Array.from(stretches.subarray(this.sent));
    this.sent = stretches.length;
    return { hops, truePeak: this.measure?.truePeakLinear ?? 0, measures: this.count };
  }
}
