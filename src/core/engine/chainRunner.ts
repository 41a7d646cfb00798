import type { Kernels } from '@/core/kernels';
import { laneValue, type LaneScale } from '@/core/lanes';
import type { Stage } from '@/core/session';
import { stageKind, type Key, type StageRunner, type StageValues } from '@/core/stages';
import { Cascade } from './cascade';
import { GRID, type NodeLanes, type StageLane } from './plan';
import { StageFade } from './stageFade';
import { BEGINNING, stretchesLate, type Now } from './stretch';

/** Widest node that a key may be. */
const MOST_KEYS = 64;

interface Running {
  id: string;
  type: string;
  runner: StageRunner;
  key: Key | null;
  /** Samples by which it delays. */
  delay: number;
  /** While it comes in or goes. */
  fade: StageFade | null;
  /** Samples in which it is to go, once it has come in. */
  going: number;
  stage: Stage;
  /** Values that follow the timeline, and by how many samples the sound that comes in is late. */
  lanes: readonly StageLane[];
  late: number;
  /** Those values as the runner has them; null: it was not set yet. */
  set: number[] | null;
}

const joins = (s: Running | undefined): boolean =>
  s !== undefined && s.runner.sections !== undefined && !s.fade && s.lanes.length === 0;

const isGone = (s: Running): boolean => s.going > 0 || (s.fade?.leaving ?? false);

/**
 * The stages of one chain at work; a stage keeps its state as long as its id, its delay and its turn stay. While sound
 * runs a new one glides in and one that is gone glides out.
 */
export class ChainRunner {
  private stages: Running[] = [];
  /** What runs in turn: a stage, or neighbouring filters as one cascade. */
  private steps: (Running | Cascade)[] = [];

  private watched: string | null = null;
  private reached = 0;
  /** Highest peaks that went into each stage and came out of it; null: nobody looks. */
  private levels: Map<string, [into: number, out: number]> | null = null;
  private listener: ((table: number, n: number) => void) | null = null;

  /** Addresses from somewhere in a block on: of its own channels, and of a key's. */
  private readonly own: number;
  private readonly keys: number;

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    private readonly channels: number,
    private readonly mostFrames: number,
  ) {
    this.own = k.x.alloc(Math.max(4, channels * 4));
    this.keys = k.x.alloc(MOST_KEYS * 4);
  }

  /**
   * `keyOf`: what a stage listens to instead of its input; `glide`: samples that a change of stages takes; `lanes`: what
   * follows the timeline.
   */
  load(
    chain: readonly Stage[],
    keyOf: (stage: string) => Key | null = () => null,
    glide = 0,
    lanes: NodeLanes | null = null,
  ): void {
    const before = this.stages;
    let turn = 0;
    let late = lanes?.late ?? 0;
    this.stages = [];
    for (const stage of chain) {
      const kind = stageKind(stage.type);
      const delay = kind.delay(stage.values, this.rate);
      const at = before.findIndex(
        (s, i) => i >= turn && !isGone(s) && s.id === stage.id && s.type === stage.type && s.delay === delay,
      );
      if (at >= 0) {
        while (turn < at) this.leave(before[turn++]!, glide);
        turn++;
      }
      const kept = at >= 0 ? before[at]! : null;
      const runner = kept?.runner ?? kind.create(this.k, this.rate, this.channels);
      const moves = lanes?.stages?.[stage.id] ?? [];
      const fade = kept ? kept.fade : glide > 0 ? this.fade(false, delay, glide) : null;
      const running: Running = {
        id: stage.id,
        type: stage.type,
        runner,
        key: keyOf(stage.id),
        delay,
        fade,
        going: 0,
        stage,
        lanes: moves,
        late,
        set: null,
      };
      late += delay;
      // What follows the timeline is set where the sound is, by the next run: from any other value it would glide.
      if (moves.length === 0) runner.set(stage.values, stage.on);
      this.stages.push(running);
    }
    while (turn < before.length) this.leave(before[turn++]!, glide);
    this.join();
  }

  private fade = (leaving: boolean, wait: number, glide: number): StageFade =>
    new StageFade(this.k, this.channels, this.mostFrames, leaving, wait, glide);

  // What is gone goes on at its place until it cannot be heard any more.
  private leave(stage: Running, glide: number): void {
    if (glide === 0) this.release(stage);
    else if (isGone(stage)) this.stages.push(stage);
    else if (stage.fade) this.stages.push({ ...stage, going: glide });
    else this.stages.push({ ...stage, fade: this.fade(true, 0, glide) });
  }

  private release(stage: Running): void {
    stage.runner.free();
    stage.fade?.free();
  }

  // Filters beside each other run in one loop: each waits for itself only, not for the others. The samples are the same.
  private join(): void {
    this.freeCascades();
    this.steps = [];
    for (let i = 0; i < this.stages.length;) {
      let end = i;
      // Looked at, each runs by itself: what comes out is the same.
      while (!this.levels && joins(this.stages[end]) && this.stages[end]!.id !== this.watched) end++;
      if (end > i) {
        this.steps.push(
          new Cascade(
            this.k,
            this.channels,
            this.stages.slice(i, end).map((s) => s.runner),
          ),
        );
        i = end;
      } else this.steps.push(this.stages[i++]!);
    }
  }

  /** The filters that this chain begins with; null where it does not, or where it is listened to. */
  get opening(): Cascade | null {
    const first = this.steps[0];
    return first instanceof Cascade && this.listener === null ? first : null;
  }

  /** `opened`: the filters that it begins with have run. */
  run(table: number, n: number, now = BEGINNING, opened = false): void {
    this.listener?.(table, n);
    for (let s = opened ? 1 : 0; s < this.steps.length; s++) {
      const step = this.steps[s]!;
      if (step instanceof Cascade) step.run(table, n);
      else {
        if (step.id === this.watched) this.look(table, n);
        const into = this.levels ? this.peak(table, n) : 0;
        step.fade?.keep(table, n);
        if (step.lanes.length === 0) step.runner.run(table, n, step.key);
        else this.runMoving(step, table, n, now);
        step.fade?.lay(table, n);
        if (this.levels) this.note(step.id, into, this.peak(table, n));
      }
    }
    if (this.stages.some((s) => s.fade?.done)) this.settle();
  }

  // Values change on a grid of the timeline, whatever the blocks are.
  private runMoving(step: Running, table: number, n: number, now: Now): void {
    for (const s of stretchesLate(now, n, step.late))
      for (let b = 0; b < s.n;) {
        const cell = Math.floor((s.at + (now.still ? 0 : b)) / GRID) * GRID;
        const m = now.still ? s.n : Math.min(s.n - b, cell + GRID - s.at - b);
        this.set(step, cell);
        const { key } = step;
        const from = (s.from + b) * 4;
        step.runner.run(
          this.shifted(this.own, table, this.channels, from),
          m,
          key && {
            table: this.shifted(this.keys, key.table, Math.min(key.channels, MOST_KEYS), from),
            channels: key.channels,
          },
        );
        b += m;
      }
  }

  private set(step: Running, place: number): void {
    const now = step.lanes.map(({ points, log }) => laneValue(points, place, log && this.ratios));
    if (step.set?.every((value, i) => value === now[i])) return;
    step.set = now;
    const moved: StageValues = Object.fromEntries(step.lanes.map(({ param }, i) => [param, now[i]!]));
    step.runner.set({ ...step.stage.values, ...moved }, step.stage.on);
  }

  /** Ratios by the kernels: engines of JavaScript may differ in the last bit of a logarithm. */
  private readonly ratios: LaneScale = { to: (v) => this.k.x.gainToDb(v), from: (v) => this.k.x.dbToGain(v) };

  private shifted(to: number, table: number, channels: number, bytes: number): number {
    for (let c = 0; c < channels; c++) this.k.heapU32[(to >> 2) + c] = this.k.heapU32[(table >> 2) + c]! + bytes;
    return to;
  }

  private settle(): void {
    this.stages = this.stages.filter((s) => {
      if (!s.fade?.done) return true;
      if (s.fade.leaving) {
        this.release(s);
        return false;
      }
      s.fade.free();
      s.fade = s.going > 0 ? this.fade(true, 0, s.going) : null;
      return true;
    });
    this.join();
  }

  /** Called with every block that goes in; null: not any more. */
  listen(listener: ((table: number, n: number) => void) | null): void {
    this.listener = listener;
  }

  /** Notes from now on what reaches this stage; null: none. */
  watch(stage: string | null): void {
    this.watched = stage;
    this.join();
  }

  /** Notes from now on what goes into each stage and comes out of it, or no more. */
  measure(on: boolean): void {
    if (on === (this.levels !== null)) return;
    this.levels = on ? new Map() : null;
    this.join();
  }

  private note(stage: string, into: number, out: number): void {
    const [a, b] = this.levels!.get(stage) ?? [0, 0];
    this.levels!.set(stage, [Math.max(a, into), Math.max(b, out)]);
  }

  /** Highest peaks, linear, into and out of each stage since the last call. */
  takeLevels(): Record<string, [into: number, out: number]> {
    const now = Object.fromEntries(this.levels ?? []);
    this.levels?.clear();
    return now;
  }

  /** Highest peak, linear, that reached the watched stage since the last call. */
  takeWatched(): number {
    const peak = this.reached;
    this.reached = 0;
    return peak;
  }

  private look(table: number, n: number): void {
    this.reached = Math.max(this.reached, this.peak(table, n));
  }

  private peak(table: number, n: number): number {
    let peak = 0;
    for (let c = 0; c < this.channels; c++)
      peak = Math.max(peak, this.k.x.peakAbs(this.k.heapU32[(table >> 2) + c]!, n));
    return peak;
  }

  /** Deepest gain reduction per stage id since the last call, dB. */
  reductions(): Record<string, number> {
    const found: Record<string, number> = {};
    for (const s of this.stages) {
      if (isGone(s)) continue;
      const r = s.runner.reduction();
      if (r !== null) found[s.id] = r;
    }
    return found;
  }

  private freeCascades(): void {
    for (const s of this.steps) if (s instanceof Cascade) s.free();
  }

  free(): void {
    this.freeCascades();
    this.stages.forEach((s) => this.release(s));
    this.stages = [];
    this.steps = [];
    this.k.x.release(this.own);
    this.k.x.release(this.keys);
  }
}
