import type { Engine } from '@/core/engine';
import { ChannelSet, type Kernels } from '@/core/kernels';
import type { RecordTap } from '../messages';
import { Ring } from '../ring';
import type { LineInputs } from './lineInputs';

interface Tap extends RecordTap {
  out: Ring;
  delays: number[];
  index: number;
}

/** Writes what the armed tracks' lines give, processed and dry, to the rings of the recorder. */
export class RecordTaps {
  private readonly taps: Tap[];
  private readonly scratch: ChannelSet;

  constructor(
    private readonly k: Kernels,
    taps: readonly RecordTap[],
    mostFrames: number,
  ) {
    this.scratch = new ChannelSet(k, 1, mostFrames);
    this.taps = taps.map((t) => ({
      ...t,
      out: new Ring(t.ring),
      index: 0,
      delays: t.delay > 0 ? t.lines.map(() => k.x.alloc(t.delay * 4)) : [],
    }));
  }

  get any(): boolean {
    return this.taps.length > 0;
  }

  write(engine: Engine, inputs: LineInputs, n: number): void {
    for (const tap of this.taps) {
      const width = tap.lines.length;
      let next = 0;
      tap.lines.forEach((line, c) => {
        const raw = tap.untouched?.[c] ?? false;
        if (!raw) tap.out.put(c, engine.has(line) ? engine.node(line).buffer.view(0, n) : this.silence(n));
        const dry = this.silence(n);
        const given = inputs.untouched(line);
        if (given) dry.set(given);
        if (tap.delays.length > 0)
          next = this.k.x.delayRun(tap.delays[c]!, tap.delay, tap.index, this.scratch.at(0), n);
        tap.out.put(width + c, dry);
        if (raw) tap.out.put(c, dry);
      });
      tap.index = next;
      tap.out.wrote(n);
    }
  }

  private silence(n: number): Float32Array {
    this.scratch.clear(n);
    return this.scratch.view(0, n);
  }

  free(): void {
    this.scratch.free();
    this.taps.forEach((t) => t.delays.forEach((d) => this.k.x.release(d)));
  }
}
