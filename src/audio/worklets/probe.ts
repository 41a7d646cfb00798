import type { Engine } from '@/core/engine';
import type { Kernels } from '@/core/kernels';
import { Spectrum } from '@/core/measure';

/** Window of the live spectrum: 43 ms at 48 kHz, fine enough for a voice, quick enough for the eye. */
const WINDOW = 2048;

/** What the drawn chain shows live. */
export interface ProbeReading {
  stage: string | null;
  /** Peak that reached the watched stage since the last reading, linear. */
  level: number;
  /** Third-octave levels after the chain, dBFS, from 20 Hz; empty before a whole window was heard. */
  bands: number[];
}

/** Listens to one node's chain: what reaches a stage, and the spectrum of what comes out. */
export class Probe {
  private readonly spectrum: Spectrum;
  private heard = 0;

  constructor(
    k: Kernels,
    rate: number,
    readonly node: string,
    readonly stage: string | null,
  ) {
    this.spectrum = new Spectrum(k, rate, WINDOW);
  }

  /** Before the engine runs a block: tells the chain which stage to look at. */
  aim(engine: Engine): void {
    if (engine.has(this.node)) engine.node(this.node).chain.watch(this.stage);
  }

  /** After the engine ran a block. */
  look(engine: Engine, n: number): void {
    if (!engine.has(this.node)) return;
    this.spectrum.run(engine.node(this.node).buffer.at(0), n);
    this.heard += n;
  }

  take(engine: Engine): ProbeReading {
    const bands = this.heard >= WINDOW ? this.spectrum.thirdOctaves().map((b) => b.level) : [];
    this.spectrum.restart();
    const level = engine.has(this.node) ? engine.node(this.node).chain.takeWatched() : 0;
    return { stage: this.stage, level, bands };
  }

  free(engine: Engine): void {
    if (engine.has(this.node)) engine.node(this.node).chain.watch(null);
    this.spectrum.free();
  }
}
