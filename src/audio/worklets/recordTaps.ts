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
  private readonly taps: Tap[] = [];
  private readonly scratch: ChannelSet;

  constructor(
    private readonly k: Kernels,
    taps: readonly RecordTap[],
    mostFrames: number,
  ) {
    this.scratch = new ChannelSet(k, 1, mostFrames);
    this.add(taps);
  }

  private open(t: RecordTap): Tap {
    const delays = t.delay > 0 ? t.lines.map(() => this.k.x.alloc(t.delay * 4)) : [];
    return { ...t, out: new Ring(t.ring), index: 0, delays };
  }

  get any(): boolean {
    return this.taps.length > 0;
  }

  /** Opens taps while others run. */
  add(taps: readonly RecordTap[]): void {
    this.taps.push(...taps.map((t) => this.open(t)));
  }

  /** Ends the taps that have no end yet. */
  end(rolled: number): void {
    for (const tap of this.taps) tap.to ??= rolled;
  }

  /** Whether any tap records in the block of `n` frames from `rolled` on. */
  records(rolled: number, n: number): boolean {
    return this.taps.some((t) => t.from < rolled + n && (t.to ?? Infinity) > rolled);
  }

  /** Writes what falls into each tap's stretch; `rolled`: frames before this block. */
  write(engine: Engine, inputs: LineInputs, rolled: number, n: number): void {
    for (const tap of this.taps) {
      const first = Math.min(n, Math.max(0, tap.from - rolled));
      const last = Math.max(first, Math.min(n, (tap.to ?? Infinity) - rolled));
      const part = (samples: Float32Array) => samples.subarray(first, last);
      const width = tap.lines.length;
      let next = 0;
      tap.lines.forEach((line, c) => {
        const raw = tap.untouched?.[c] ?? false;
        if (!raw) tap.out.put(c, part(engine.has(line) ? engine.node(line).buffer.view(0, n) : this.silence(n)));
        const dry = this.silence(n);
        const given = inputs.untouched(line);
        if (given) dry.set(given);
        if (tap.delays.length > 0)
          next = this.k.x.delayRun(tap.delays[c]!, tap.delay, tap.index, this.scratch.at(0), n);
        tap.out.put(width + c, part(dry));
        if (raw) tap.out.put(c, part(dry));
      });
      tap.index = next;
      tap.out.wrote(last - first);
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
