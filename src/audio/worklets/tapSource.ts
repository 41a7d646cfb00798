import type { Engine } from '@/core/engine';
import { ChannelSet, type Kernels } from '@/core/kernels';
import type { RecordTap } from '../messages';
import type { LineInputs } from './lineInputs';

/** What the lines of one track give: the channels through their chains, then the untouched ones, as late as those. */
export class TapSource {
  private readonly scratch: ChannelSet;
  private readonly delays: number[];
  private index = 0;

  constructor(
    private readonly k: Kernels,
    private readonly tap: Pick<RecordTap, 'lines' | 'untouched' | 'delay'>,
    mostFrames: number,
  ) {
    this.scratch = new ChannelSet(k, 1, mostFrames);
    this.delays = tap.delay > 0 ? tap.lines.map(() => k.x.alloc(tap.delay * 4)) : [];
  }

  /** Gives `put` the `n` frames of each channel of this block; the samples hold only until it returns. */
  each(engine: Engine, inputs: LineInputs, n: number, put: (channel: number, samples: Float32Array) => void): void {
    const { lines, untouched, delay } = this.tap;
    let next = 0;
    lines.forEach((line, c) => {
      const raw = untouched?.[c] ?? false;
      if (!raw) put(c, engine.has(line) ? engine.node(line).buffer.view(0, n) : this.silence(n));
      const dry = this.silence(n);
      const given = inputs.untouched(line);
      if (given) dry.set(given);
      if (this.delays.length > 0) next = this.k.x.delayRun(this.delays[c]!, delay, this.index, this.scratch.at(0), n);
      put(lines.length + c, dry);
      if (raw) put(c, dry);
    });
    this.index = next;
  }

  private silence(n: number): Float32Array {
    this.scratch.clear(n);
    return this.scratch.view(0, n);
  }

  free(): void {
    this.scratch.free();
    this.delays.forEach((d) => this.k.x.release(d));
  }
}
