import type { Kernels } from '@/core/kernels';
import { ChannelSet } from '@/core/kernels';
import type { Stage } from '@/core/session';
import { ChainRunner } from './chainRunner';
import { chainDelay } from './compile';

const BLOCK = 1024;

/**
 * A recording through chains once more, a chain per channel, as it would have come out live. Feed it the untouched
 * samples in blocks of any length, then `finish`; what comes out is as long as what went in and stands at the same
 * samples: the longest chain's delay is taken out, shorter ones wait for it.
 */
export class Redo {
  private readonly runners: ChainRunner[];
  private readonly work: ChannelSet;
  private readonly lines: { at: number; size: number; index: number }[];
  private readonly delay: number;
  private dropped = 0;

  constructor(
    private readonly k: Kernels,
    rate: number,
    chains: readonly (readonly Stage[])[],
    private readonly onBlock: (table: ChannelSet, from: number, n: number) => Promise<void>,
  ) {
    this.work = new ChannelSet(k, chains.length, BLOCK);
    const delays = chains.map((c) => chainDelay(c, rate));
    this.delay = Math.max(0, ...delays);
    this.runners = chains.map((chain) => {
      const runner = new ChainRunner(k, rate, 1, BLOCK);
      runner.load(chain);
      return runner;
    });
    this.lines = delays.map((d) => ({
      at: this.delay > d ? k.x.alloc((this.delay - d) * 4) : 0,
      size: this.delay - d,
      index: 0,
    }));
  }

  /** `n` frames of the channels whose addresses stand at `table`. */
  async run(table: number, n: number): Promise<void> {
    for (let from = 0; from < n; from += BLOCK) {
      const part = Math.min(BLOCK, n - from);
      this.runners.forEach((_, c) =>
        this.k.x.copy(this.work.at(c), this.k.heapU32[(table >> 2) + c]! + from * 4, part),
      );
      await this.block(part);
    }
  }

  private async block(n: number): Promise<void> {
    this.runners.forEach((runner, c) => {
      runner.run(this.work.table + c * 4, n);
      const line = this.lines[c]!;
      if (line.size > 0) line.index = this.k.x.delayRun(line.at, line.size, line.index, this.work.at(c), n);
    });
    const skip = Math.min(n, this.delay - this.dropped);
    this.dropped += skip;
    if (skip < n) await this.onBlock(this.work, skip, n - skip);
  }

  /** What the delays still hold. */
  async finish(): Promise<void> {
    for (let left = this.delay; left > 0; left -= BLOCK) {
      const n = Math.min(BLOCK, left);
      this.work.clear(n);
      await this.block(n);
    }
    this.runners.forEach((r) => r.free());
    this.lines.forEach((l) => l.size > 0 && this.k.x.release(l.at));
    this.work.free();
  }
}
