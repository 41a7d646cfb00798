import { SoundLevelMeter, type Weighting } from '@/core/acoustics';
import type { Engine } from './engine';

/** What was heard is kept for so long (s), for measurements that begin in it. */
const KEPT_SECONDS = 4;

interface Wanted {
  from: number;
  frames: number;
  resolve: (samples: Float32Array) => void;
  reject: (error: Error) => void;
}

/** A measurement that was ended before it was done. */
export class Ended extends Error {}

/** One line of an open device as a measuring microphone: a sound level meter, and what was heard at a time. */
export class MeasuringMic {
  private parts: { at: number; samples: Float32Array }[] = [];
  private wanted: Wanted[] = [];
  private meter: SoundLevelMeter | null = null;
  private end: (() => void) | null = null;
  private weighting: Weighting = 'C';

  constructor(private readonly engine: Engine) {}

  /** Listens from now on; throws where the device is off. */
  begin(device: string, line = 0): void {
    this.stop();
    const { player } = this.engine;
    if (!player) throw new Error('There is no sound yet; press a key or a button first.');
    this.meter = new SoundLevelMeter(player.context.sampleRate, this.weighting);
    this.end = player.listen(device, (channels, at) => this.take(channels[line], at, player.context.sampleRate));
  }

  /** Sets how it weighs. */
  weigh(weighting: Weighting): void {
    if (weighting === this.weighting) return;
    this.weighting = weighting;
    const { player } = this.engine;
    if (this.meter && player) this.meter = new SoundLevelMeter(player.context.sampleRate, weighting);
  }

  private take(samples: Float32Array | undefined, at: number, rate: number): void {
    if (!samples) return;
    this.meter?.run(samples);
    this.parts.push({ at, samples });
    const oldest = at - KEPT_SECONDS * rate;
    const needed = Math.min(oldest, ...this.wanted.map((w) => w.from));
    this.parts = this.parts.filter((p) => p.at + p.samples.length > needed);
    this.wanted = this.wanted.filter((w) => !this.give(w));
  }

  private give({ from, frames, resolve }: Wanted): boolean {
    const last = this.parts.at(-1);
    if (!last || last.at + last.samples.length < from + frames) return false;
    const out = new Float32Array(frames);
    for (const { at, samples } of this.parts) {
      const [a, b] = [Math.max(from, at), Math.min(from + frames, at + samples.length)];
      if (a < b) out.set(samples.subarray(a - at, b - at), a - from);
    }
    resolve(out);
    return true;
  }

  /** What its needle shows, dB against full scale; null while it is off. */
  get level(): number | null {
    return this.meter?.level ?? null;
  }

  /** What is heard from this frame of the sound's clock on. */
  heard(from: number, frames: number): Promise<Float32Array> {
    return new Promise((resolve, reject) => {
      const one = { from, frames, resolve, reject };
      if (!this.give(one)) this.wanted.push(one);
    });
  }

  stop(): void {
    this.end?.();
    this.end = null;
    this.meter = null;
    this.parts = [];
    const open = this.wanted;
    this.wanted = [];
    open.forEach((w) => w.reject(new Ended()));
  }
}
