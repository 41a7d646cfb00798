import type { Kernels } from '@/core/kernels';
import type { StageRunner } from '@/core/stages';

/** The sections of several filter stages in a row, run as one chain per channel; the stages keep their states. */
export class Cascade {
  private readonly lists: number[];
  private readonly table: number;
  private readonly count: number;

  /** Made anew whenever a stage was set: what works may have changed. */
  constructor(
    private readonly k: Kernels,
    channels: number,
    stages: readonly StageRunner[],
  ) {
    const sections = (c: number) => stages.flatMap((s) => s.sections!(c));
    this.count = sections(0).length;
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

  free(): void {
    [...this.lists, this.table].forEach((at) => this.k.x.release(at));
  }
}
