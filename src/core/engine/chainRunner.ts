import type { Kernels } from '@/core/kernels';
import type { Stage } from '@/core/session';
import { stageKind, type StageRunner } from '@/core/stages';

/** The stages of one chain at work; a stage keeps its state as long as its id stays. */
export class ChainRunner {
  private stages: { id: string; type: string; runner: StageRunner }[] = [];

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    private readonly channels: number,
  ) {}

  load(chain: readonly Stage[]): void {
    const before = this.stages;
    this.stages = chain.map((stage) => {
      const at = before.findIndex((s) => s.id === stage.id && s.type === stage.type);
      const kept = at >= 0 ? before.splice(at, 1)[0]! : null;
      const runner = kept?.runner ?? stageKind(stage.type).create(this.k, this.rate, this.channels);
      runner.set(stage.values, stage.on);
      return { id: stage.id, type: stage.type, runner };
    });
    before.forEach((s) => s.runner.free());
  }

  run(table: number, n: number): void {
    for (let i = 0; i < this.stages.length; i++) this.stages[i]!.runner.run(table, n);
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

  free(): void {
    this.stages.forEach((s) => s.runner.free());
    this.stages = [];
  }
}
