import type { Engine } from '@/core/engine';
import { ChannelSet, type Kernels } from '@/core/kernels';
import type { LineSource } from '../messages';

/** Brings the browser's input blocks to the lines' nodes, and watches every channel that arrives. */
export class LineInputs {
  lines: LineSource[] = [];
  private readonly scratch: ChannelSet;
  private peaks: number[][] = [];
  private raw = new Map<string, Float32Array>();

  constructor(
    private readonly k: Kernels,
    mostFrames: number,
  ) {
    this.scratch = new ChannelSet(k, 1, mostFrames);
  }

  /** Notes the peak of every channel of every input. */
  look(inputs: Float32Array[][], n: number): void {
    inputs.forEach((channels, slot) => {
      const peaks = (this.peaks[slot] ??= []);
      channels.forEach((samples, c) => {
        this.k.heap.set(samples, this.scratch.at(0) >> 2);
        peaks[c] = Math.max(peaks[c] ?? 0, this.k.x.peakAbs(this.scratch.at(0), n));
      });
    });
  }

  /** Fills the lines' nodes. */
  feed(engine: Engine, inputs: Float32Array[][], n: number): void {
    this.raw.clear();
    for (const { line, slot, channel } of this.lines) {
      const samples = inputs[slot]?.[channel];
      if (!samples || !engine.has(line)) continue;
      this.raw.set(line, samples);
      this.k.heap.set(samples.length === n ? samples : samples.subarray(0, n), engine.node(line).buffer.at(0) >> 2);
    }
  }

  /** This block's untouched samples of a line; undefined when its device is not open. */
  untouched(line: string): Float32Array | undefined {
    return this.raw.get(line);
  }

  takePeaks(): number[][] {
    const taken = this.peaks;
    this.peaks = [];
    return taken;
  }
}
