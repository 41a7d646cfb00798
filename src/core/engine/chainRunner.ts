import type { Kernels } from '@/core/kernels';
import type { Stage } from '@/core/session';
import { stageKind, type Key, type StageRunner } from '@/core/stages';
import { Cascade } from './cascade';

interface Running {
  id: string;
  type: string;
  runner: StageRunner;
  key: Key | null;
}

/** The stages of one chain at work; a stage keeps its state as long as its id stays. */
export class ChainRunner {
  private stages: Running[] = [];
  /** What runs in turn: a stage, or neighbouring filters as one cascade. */
  private steps: (Running | Cascade)[] = [];

  private watched: string | null = null;
  private reached = 0;
  private listener: ((table: number, n: number) => void) | null = null;

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    private readonly channels: number,
  ) {}

  /** `keyOf`: what a stage listens to instead of its input. */
  load(chain: readonly Stage[], keyOf: (stage: string) => Key | null = () => null): void {
    const before = this.stages;
    this.stages = chain.map((stage) => {
      const at = before.findIndex((s) => s.id === stage.id && s.type === stage.type);
      const kept = at >= 0 ? before.splice(at, 1)[0]! : null;
      const runner = kept?.runner ?? stageKind(stage.type).create(this.k, this.rate, this.channels);
      runner.set(stage.values, stage.on);
      return { id: stage.id, type: stage.type, runner, key: keyOf(stage.id) };
    });
    before.forEach((s) => s.runner.free());
    this.join();
  }

  // Filters beside each other run in one loop: each waits for itself only, not for the others. The samples are the same.
  private join(): void {
    this.freeCascades();
    this.steps = [];
    for (let i = 0; i < this.stages.length;) {
      let end = i;
      while (this.stages[end]?.runner.sections) end++;
      if (end - i > 1) {
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

  run(table: number, n: number): void {
    this.listener?.(table, n);
    for (const step of this.steps) {
      if (step instanceof Cascade) step.run(table, n);
      else {
        if (step.id === this.watched) this.look(table, n);
        step.runner.run(table, n, step.key);
      }
    }
  }

  /** Called with every block that goes in; null: not any more. */
  listen(listener: ((table: number, n: number) => void) | null): void {
    this.listener = listener;
  }

  /** Notes from now on what reaches this stage; null: none. Filters that run as one are not looked at. */
  watch(stage: string | null): void {
    this.watched = stage;
  }

  /** Highest peak, linear, that reached the watched stage since the last call. */
  takeWatched(): number {
    const peak = this.reached;
    this.reached = 0;
    return peak;
  }

  private look(table: number, n: number): void {
    for (let c = 0; c < this.channels; c++)
      this.reached = Math.max(this.reached, this.k.x.peakAbs(this.k.heapU32[(table >> 2) + c]!, n));
  }

  /** Deepest gain reduction per stage id since the last call, dB. */
  reductions(): Record<string, number> {
    const found: Record<string, number> = {};
    for (const s of this.stages) {
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
    this.stages.forEach((s) => s.runner.free());
    this.stages = [];
    this.steps = [];
  }
}
