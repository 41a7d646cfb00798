import { ChannelSet, Kernels } from '@/core/kernels';
import type { LineSheet } from '@/core/session';
import { lineGain, type StandinLine } from './model';

const MOST_FRAMES = 1024;
const HUM_HZ = 50;

type Loaded = StandinLine & { samples: Float32Array | null };

interface Voice {
  line: StandinLine;
  sheet: LineSheet;
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
  private frame = 0;

  constructor(options: { processorOptions: { module: WebAssembly.Module } }) {
    super();
    this.k = new Kernels(options.processorOptions.module);
    this.block = new ChannelSet(this.k, 1, MOST_FRAMES);
    this.noise = this.k.x.alloc(16);
    this.k.u32(this.noise, 1)[0] = 0x2545f491;
    this.port.onmessage = ({ data }: MessageEvent<{ lines: Loaded[] } | { channel: number; sheet: LineSheet }>) => {
      if ('lines' in data) this.load(data.lines);
      else if (this.lines[data.channel]) this.lines[data.channel]!.sheet = data.sheet;
    };
  }

  private load(lines: Loaded[]): void {
    this.lines.forEach((l) => l.sound && this.k.x.release(l.sound));
    this.lines = lines.map(({ samples, ...line }) => {
      const sound = samples ? this.k.x.alloc(samples.length * 4) : 0;
      if (samples) this.k.f32(sound, samples.length).set(samples);
      return { line, sheet: line.sheet, sound, frames: samples?.length ?? 0, at: 0 };
    });
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const n = outputs[0]![0]?.length ?? 0;
    outputs[0]!.forEach((out, c) => {
      const voice = this.lines[c];
      if (!voice) return;
      const { line } = voice;
      const { sound, noise, sign } = lineGain(line, voice.sheet);
      this.block.clear(n);
      for (let i = 0; voice.frames > 0 && i < n;) {
        const part = Math.min(n - i, voice.frames - voice.at);
        if (sound > -Infinity)
          this.k.x.mix(voice.sound + voice.at * 4, this.block.at(0) + i * 4, part, sign * this.k.gain(sound));
        voice.at = (voice.at + part) % voice.frames;
        i += part;
      }
      this.k.x.noiseAdd(this.noise, this.block.at(0), n, this.k.gain(noise));
      if (line.hum !== undefined || line.offset !== undefined) this.addFaults(line, n);
      this.k.x.clip(this.block.at(0), n, 1);
      out.set(this.block.view(0, n));
    });
    this.frame += n;
    return true;
  }

  private addFaults(line: StandinLine, n: number): void {
    const view = this.block.view(0, n);
    const hum = line.hum === undefined ? 0 : this.k.gain(line.hum);
    for (let i = 0; i < n; i++)
      view[i] = view[i]! + (line.offset ?? 0) + hum * Math.sin((2 * Math.PI * HUM_HZ * (this.frame + i)) / sampleRate);
  }
}

registerProcessor('wide-room-standin', StandinProcessor);
