import type { Engine } from '@/core/engine';
import type { Kernels } from '@/core/kernels';
import { Measure, Spectrum } from '@/core/measure';

/** Window of the live spectrum: 43 ms at 48 kHz, fine enough for a voice, quick enough for the eye. */
const WINDOW = 2048;

/** What the drawn chain shows live. */
export interface ProbeReading {
  stage: string | null;
  /** Peak that reached the watched stage since the last reading, linear. */
  level: number;
  /** Highest peaks into and out of each stage since the last reading, linear. */
  stages: Record<string, [into: number, out: number]>;
  /** Third-octave levels after the chain, dBFS, from 20 Hz; empty before a whole window was heard. */
  bands: number[];
  /** Weighted mean squares of the latest 100 ms stretches, before the chain and after it. */
  before: number[];
  after: number[];
}

/** Listens to one node's chain: what reaches a stage, and the spectrum of what comes out. */
export class Probe {
  private readonly spectrum: Spectrum;
  private heard = 0;
  private loudness: { before: Measure; after: Measure; told: number } | null = null;

  constructor(
    private readonly k: Kernels,
    private readonly rate: number,
    readonly node: string,
    readonly stage: string | null,
    private readonly mostFrames: number,
  ) {
    this.spectrum = new Spectrum(k, rate, WINDOW);
  }

  /** Before the engine runs a block: tells the chain which stage to look at. */
  aim(engine: Engine): void {
    if (!engine.has(this.node)) return;
    const { chain, buffer } = engine.node(this.node);
    chain.watch(this.stage);
    chain.measure(true);
    const loudness = (this.loudness ??= this.begin(buffer.channels));
    chain.listen((table, n) => loudness.before.run(table, n));
  }

  private begin(channels: number) {
    const made = () =>
      new Measure(this.k, this.rate, Array<number>(channels).fill(1), this.mostFrames, {
        truePeak: false,
        silence: false,
      });
    return { before: made(), after: made(), told: 0 };
  }

  /** After the engine ran a block. */
  look(engine: Engine, n: number): void {
    if (!engine.has(this.node)) return;
    const { buffer } = engine.node(this.node);
    this.spectrum.run(buffer.at(0), n);
    this.loudness?.after.run(buffer.table, n);
    this.heard += n;
  }

  take(engine: Engine): ProbeReading {
    const bands = this.heard >= WINDOW ? this.spectrum.thirdOctaves().map((b) => b.level) : [];
    this.spectrum.restart();
    const level = engine.has(this.node) ? engine.node(this.node).chain.takeWatched() : 0;
    const stages = engine.has(this.node) ? engine.node(this.node).chain.takeLevels() : {};
    return { stage: this.stage, level, stages, bands, ...this.takeLoudness() };
  }

  private takeLoudness(): { before: number[]; after: number[] } {
    if (!this.loudness) return { before: [], after: [] };
    const { before, after, told } = this.loudness;
    this.loudness.told = Math.min(before.stretches.length, after.stretches.length);
    const fresh = (m: Measure) => Array.from(m.stretches.subarray(told, this.loudness!.told));
    return { before: fresh(before), after: fresh(after) };
  }

  free(engine: Engine): void {
    if (engine.has(this.node)) {
      engine.node(this.node).chain.watch(null);
      engine.node(this.node).chain.measure(false);
      engine.node(this.node).chain.listen(null);
    }
    this.loudness?.before.free();
    this.loudness?.after.free();
    this.spectrum.free();
  }
}
