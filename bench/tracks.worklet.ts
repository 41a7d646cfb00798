// The engine with many tracks at once, as the application runs it, and how much of each quantum it takes.
import { Engine, type Plan } from '../src/core/engine';
import { Kernels } from '../src/core/kernels';

/** Quanta between two reports: a second. */
const REPORT = 375;

class TracksProcessor extends AudioWorkletProcessor {
  private readonly engine: Engine;
  private readonly tracks: string[];
  private readonly noise: Float32Array;
  private at = 0;
  private quanta = 0;
  private busy = 0;

  constructor(options: { processorOptions: { module: WebAssembly.Module; plan: Plan } }) {
    super();
    const { module, plan } = options.processorOptions;
    this.engine = new Engine(new Kernels(module), 128, { meters: true });
    this.engine.load(plan);
    this.tracks = plan.nodes.filter((n) => n.kind === 'track').map((n) => n.id);
    let seed = 1;
    this.noise = Float32Array.from({ length: 48000 }, () => {
      seed = (Math.imul(seed, 1664525) + 1013904223) | 0;
      return seed / 2 ** 33;
    });
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    // A worklet has no finer clock; over many quanta the whole milliseconds add up to the true share.
    const began = Date.now();
    const n = outputs[0]![0]!.length;
    this.engine.begin(n);
    this.tracks.forEach((id, i) => {
      const from = (this.at + i * 211) % (this.noise.length - n);
      this.engine
        .node(id)
        .buffer.view(0, n)
        .set(this.noise.subarray(from, from + n));
    });
    this.at += n;
    this.engine.run(n);
    const ears = this.engine.node('ears').buffer;
    outputs[0]!.forEach((out, c) => out.set(ears.view(c, n)));
    this.busy += Date.now() - began;
    if (++this.quanta === REPORT) {
      this.port.postMessage(this.busy / ((REPORT * n * 1000) / sampleRate));
      this.quanta = 0;
      this.busy = 0;
    }
    return true;
  }
}

/** The control: reports at the same pace and makes no sound. */
class IdleProcessor extends AudioWorkletProcessor {
  private quanta = 0;

  process(): boolean {
    if (++this.quanta % REPORT === 0) this.port.postMessage(0);
    return true;
  }
}

registerProcessor('tracks', TracksProcessor);
registerProcessor('idle', IdleProcessor);
