import type { Engine } from '@/core/engine';
import type { Kernels } from '@/core/kernels';
import type { RecordTap, StandbyTap } from '../messages';
import { TakeWriter } from '../takeRing';
import type { LineInputs } from './lineInputs';
import { LookBack } from './lookBack';
import { TapSource } from './tapSource';

interface Tap extends RecordTap {
  out: TakeWriter;
  source: TapSource;
}

interface Standby {
  tap: StandbyTap;
  source: TapSource;
  past: LookBack;
  /** Frames until the source's delay lines are filled. */
  filling: number;
}

const sameLines = (a: StandbyTap, b: RecordTap): boolean =>
  a.track === b.track &&
  a.delay === b.delay &&
  a.lines.join() === b.lines.join() &&
  (a.untouched ?? []).join() === (b.untouched ?? []).join();

/** Writes what the armed tracks' lines give, processed and dry, to the rings of the recorder. */
export class RecordTaps {
  private taps: Tap[] = [];
  private waiting: Standby[] = [];

  constructor(
    private readonly k: Kernels,
    taps: readonly RecordTap[],
    private readonly mostFrames: number,
  ) {
    this.add(taps);
  }

  private open = (t: RecordTap, source = new TapSource(this.k, t, this.mostFrames)): Tap => ({
    ...t,
    out: new TakeWriter(t.ring),
    source,
  });

  private wait = (tap: StandbyTap): Standby => ({
    tap,
    source: new TapSource(this.k, tap, this.mostFrames),
    past: new LookBack(tap.lines.length * 2, tap.frames),
    filling: tap.delay,
  });

  get any(): boolean {
    return this.taps.length > 0;
  }

  /** Opens taps while others run. */
  add(taps: readonly RecordTap[]): void {
    this.taps.push(...taps.map((t) => this.open(t)));
  }

  /** Holds back the latest sound of these tracks from now on. */
  standBy(taps: readonly StandbyTap[]): void {
    this.waiting.forEach((w) => w.source.free());
    this.waiting = taps.map(this.wait);
  }

  /** Begins to record by hand; gives, by track, how many frames from before were put in front. */
  punch(taps: readonly RecordTap[], rolled: number): Record<string, number> {
    const before: Record<string, number> = {};
    for (const t of taps) {
      const i = this.waiting.findIndex((w) => sameLines(w.tap, t));
      const held = this.waiting[i];
      const frames = held?.past.frames ?? 0;
      const tap = this.open({ ...t, from: rolled - frames }, held?.source);
      if (held) {
        tap.out.begin(frames);
        for (let c = 0; c < t.lines.length * 2; c++) tap.out.put(c, held.past.read(c));
        tap.out.wrote(frames);
        this.waiting[i] = this.wait(held.tap);
      }
      before[t.track] = frames;
      this.taps.push(tap);
    }
    return before;
  }

  /** Ends the taps that have no end yet, each after what it still needs. */
  end(rolled: number): void {
    for (const tap of this.taps) tap.to ??= rolled + (tap.after ?? 0);
  }

  /** Whether any tap records in the block of `n` frames from `rolled` on. */
  records(rolled: number, n: number): boolean {
    return this.taps.some((t) => t.from < rolled + n && (t.to ?? Infinity) > rolled);
  }

  /** Writes what falls into each tap's stretch, and lets go of those that have ended; `rolled`: frames before this block. */
  write(engine: Engine, inputs: LineInputs, rolled: number, n: number): void {
    let over = false;
    for (const tap of this.taps) {
      const first = Math.min(n, Math.max(0, tap.from - rolled));
      const last = Math.max(first, Math.min(n, (tap.to ?? Infinity) - rolled));
      tap.out.begin(last - first);
      tap.source.each(engine, inputs, n, (c, samples) => tap.out.put(c, samples.subarray(first, last)));
      tap.out.wrote(last - first);
      over ||= tap.to !== null && tap.to <= rolled + n;
    }
    if (over) this.letGo(rolled + n);
    for (const held of this.waiting) {
      const skip = Math.min(n, held.filling);
      held.filling -= skip;
      held.source.each(engine, inputs, n, (c, samples) => held.past.put(c, samples.subarray(skip, n)));
      held.past.wrote(n - skip);
    }
  }

  private letGo(rolled: number): void {
    this.taps = this.taps.filter((tap) => {
      if (tap.to === null || tap.to > rolled) return true;
      tap.out.end();
      tap.source.free();
      return false;
    });
  }

  /** Ends everything where it is. */
  free(): void {
    for (const tap of this.taps) {
      tap.out.end();
      tap.source.free();
    }
    this.taps = [];
    this.waiting.forEach((w) => w.source.free());
  }
}
