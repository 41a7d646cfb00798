import { AUDITION, type Audition, type Engine } from '@/core/engine';
import type { Kernels } from '@/core/kernels';
import { auditionSound } from '@/core/signals';

/** Lays clicks and beeps into their node while rolling. */
export class Auditions {
  private readonly sounds = new Map<string, Float32Array>();
  private next = 0;
  /** Sounding now: samples, gain, and the frame of the roll at which they began. */
  private open: { samples: Float32Array; gain: number; at: number }[] = [];

  constructor(
    private readonly k: Kernels,
    private readonly list: readonly Audition[],
    private readonly rate: number,
  ) {
    for (const a of list) this.soundOf(a);
  }

  private soundOf({ sound, accent }: Audition): Float32Array {
    const key = `${sound}/${accent}`;
    const made = this.sounds.get(key) ?? auditionSound(this.k, sound, accent, this.rate);
    this.sounds.set(key, made);
    return made;
  }

  /** Adds what sounds in frames [rolled, rolled + n). */
  run(engine: Engine, rolled: number, n: number): void {
    for (let a = this.list[this.next]; a && a.at < rolled + n; a = this.list[++this.next])
      this.open.push({ samples: this.soundOf(a), gain: this.k.gain(a.level), at: a.at });
    if (this.open.length === 0 || !engine.has(AUDITION)) return;
    const out = engine.node(AUDITION).buffer.view(0, n);
    for (const { samples, gain, at } of this.open)
      for (let i = Math.max(0, at - rolled); i < n && rolled + i - at < samples.length; i++)
        out[i] = out[i]! + gain * samples[rolled + i - at]!;
    this.open = this.open.filter((o) => o.at + o.samples.length > rolled + n);
  }
}
