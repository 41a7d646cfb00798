import { ChannelSet, Kernels } from '@/core/kernels';
import type { StandinLine } from './model';

const MOST_FRAMES = 1024;

interface Voice {
  gain: number;
  noise: number;
  /** Address and length of the looped sound; 0: none. */
  sound: number;
  frames: number;
  at: number;
}

/** A simulated input device: each line a sound of the room, the microphone's own noise, and full scale. */
class StandinProcessor extends AudioWorkletProcessor {
  private readonly k: Kernels;
  private readonly block: ChannelSet;
  private readonly noise: number;
  private lines: Voice[] = [];

  constructor(options: { processorOptions: { module: WebAssembly.Module } }) {
    super();
    this.k = new Kernels(options.processorOptions.module);
    this.block = new ChannelSet(this.k, 1, MOST_FRAMES);
    this.noise = this.k.x.alloc(16);
    this.k.u32(this.noise, 1)[0] = 0x2545f491;
    this.port.onmessage = (event: MessageEvent<{ lines: (StandinLine & { samples: Float32Array | null })[] }>) =>
      this.load(event.data.lines);
  }

  private load(lines: (StandinLine & { samples: Float32Array | null })[]): void {
    this.lines.forEach((l) => l.sound && this.k.x.release(l.sound));
    this.lines = lines.map(({ samples, gain, noise }) => {
      const sound = samples ? this.k.x.alloc(samples.length * 4) : 0;
      if (samples) this.k.f32(sound, samples.length).set(samples);
      return { gain, noise, sound, frames: samples?.length ?? 0, at: 0 };
    });
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    outputs[0]!.forEach((out, c) => {
      const line = this.lines[c];
      if (!line) return;
      const n = out.length;
      this.block.clear(n);
      for (let i = 0; line.frames > 0 && i < n;) {
        const part = Math.min(n - i, line.frames - line.at);
        this.k.x.mix(line.sound + line.at * 4, this.block.at(0) + i * 4, part, this.k.gain(line.gain));
        line.at = (line.at + part) % line.frames;
        i += part;
      }
      this.k.x.noiseAdd(this.noise, this.block.at(0), n, this.k.gain(line.noise));
      this.k.x.clip(this.block.at(0), n, 1);
      out.set(this.block.view(0, n));
    });
    return true;
  }
}

registerProcessor('wide-room-standin', StandinProcessor);
