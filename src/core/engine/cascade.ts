import type { Kernels } from '@/core/kernels';
import type { StageRunner } from '@/core/stages';

/** The sections of several filter stages in a row, run as one chain per channel; the stages keep their states. */
export class Cascade {
  private readonly lists: number[];
  /** Sections of each stage: two of the same shape run side by side. */
  readonly shape: string;
  private readonly table: number;
  private readonly count: number;

  /** Made anew whenever a stage was set: what works may have changed. */
  constructor(
    private readonly k: Kernels,
    channels: number,
    stages: readonly StageRunner[],
  ) {
    // A zero between two stages: their sums are rounded as they are where they run apart.
    const sections = (c: number) => stages.flatMap((s) => [...s.sections!(c), 0]);
    this.count = sections(0).length;
    this.shape = stages.map((s) => s.sections!(0).length).join();
    this.lists = Array.from({ length: channels }, (_, c) => {
      const list = k.x.alloc(Math.max(4, this.count * 4));
      k.u32(list, this.count).set(sections(c));
      return list;
    });
    this.table = k.x.alloc(channels * 4);
    k.u32(this.table, channels).set(this.lists);
  }

  run(table: number, n: number): void {
    if (this.count > 0) this.k.x.biquadChannels(this.table, this.count, table, this.lists.length, n);
  }

  /** Runs this on one channel and another chain of the same shape on another: the same samples, in less time. */
  runBeside(table: number, other: Cascade, otherTable: number, n: number): void {
    const { heapU32 } = this.k;
    const [a, b] = [heapU32[table >> 2]!, heapU32[otherTable >> 2]!];
    if (this.count > 0) this.k.x.biquadPair(this.lists[0]!, other.lists[0]!, this.count, a, b, n);
  }

  free(): void {
    [...this.lists, this.table].forEach((at) => this.k.x.release(at));
  }
}
