import { ChannelSet, Kernels } from '@/core/kernels';
import type { LineSheet } from '@/core/session';
import { Voice, type LoadedLine } from './voice';

const MOST_FRAMES = 1024;

type Told = { lines: LoadedLine[] } | { channel: number; sheet: LineSheet } | 'end';

/** A simulated input device: its lines, one after another. */
class StandinProcessor extends AudioWorkletProcessor {
  private readonly k: Kernels;
  private readonly block: ChannelSet;
  private readonly noise: number;
  private voices: Voice[] = [];
  /** Switched off: a processor that says so is not called any more, and goes. */
  private over = false;

  constructor(options: { processorOptions: { module: WebAssembly.Module } }) {
    super();
    this.k = new Kernels(options.processorOptions.module);
    this.block = new ChannelSet(this.k, 1, MOST_FRAMES);
    this.noise = this.k.x.alloc(16);
    this.k.u32(this.noise, 1)[0] = 0x2545f491;
    this.port.onmessage = ({ data }: MessageEvent<Told>) => {
      if (data === 'end') this.over = true;
      else if ('lines' in data) {
        this.voices.forEach((v) => v.free());
        this.voices = data.lines.map((line) => new Voice(this.k, line, this.noise));
      } else if (this.voices[data.channel]) this.voices[data.channel]!.sheet = data.sheet;
    };
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const n = outputs[0]![0]?.length ?? 0;
    outputs[0]!.forEach((out, c) => {
      if (!this.voices[c]) return;
      this.voices[c].run(this.block, n, sampleRate);
      out.set(this.block.view(0, n));
    });
    return !this.over;
  }
}

registerProcessor('wide-room-standin', StandinProcessor);
