import type { ChannelSet, Kernels } from '@/core/kernels';
import type { LineSheet } from '@/core/session';
import { lineGain, type StandinLine } from './model';

const HUM_HZ = 50;

/** A line of a stand-in with its sound, one channel; null: only noise. */
export type LoadedLine = StandinLine & { samples: Float32Array | null };

/** What one line hears: a looped sound of the room, the microphone's own noise, and full scale. */
export class Voice {
  sheet: LineSheet;
  private readonly sound: number;
  private readonly frames: number;
  private at = 0;
  private frame = 0;
  private phase = 0;
  private readonly line: StandinLine;

  /** `noise`: state of the noise generator, shared by all lines. */
  constructor(
    private readonly k: Kernels,
    { samples, ...line }: LoadedLine,
    private readonly noise: number,
  ) {
    this.line = line;
    this.sheet = line.sheet;
    this.sound = samples ? k.x.alloc(samples.length * 4) : 0;
    this.frames = samples?.length ?? 0;
    if (samples) k.f32(this.sound, samples.length).set(samples);
  }

  /** Writes the next `n` frames into channel 0 of `block`. */
  run(block: ChannelSet, n: number, rate: number): void {
    const { k, line } = this;
    const { sound, noise, sign } = lineGain(line, this.sheet);
    block.clear(n);
    for (let i = 0; this.frames > 0 && i < n;) {
      const part = Math.min(n - i, this.frames - this.at);
      if (sound > -Infinity) k.x.mix(this.sound + this.at * 4, block.at(0) + i * 4, part, sign * k.gain(sound));
      this.at = (this.at + part) % this.frames;
      i += part;
    }
    if (line.tone)
      this.phase = k.x.sineAdd(block.at(0), n, this.phase, (2 * Math.PI * line.tone) / rate, k.gain(line.gain));
    k.x.noiseAdd(this.noise, block.at(0), n, noise > -Infinity ? k.gain(noise) : 0);
    if (line.hum !== undefined || line.offset !== undefined) this.addFaults(block, n, rate);
    k.x.clip(block.at(0), n, 1);
    this.frame += n;
  }

  private addFaults(block: ChannelSet, n: number, rate: number): void {
    const view = block.view(0, n);
    const { hum, offset = 0 } = this.line;
    const level = hum === undefined ? 0 : this.k.gain(hum);
    for (let i = 0; i < n; i++)
      view[i] = view[i]! + offset + level * Math.sin((2 * Math.PI * HUM_HZ * (this.frame + i)) / rate);
  }

  free(): void {
    if (this.sound) this.k.x.release(this.sound);
  }
}
