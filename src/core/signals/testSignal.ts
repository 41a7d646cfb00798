import type { Kernels } from '@/core/kernels';
import type { Generator } from './generator';
import { PinkNoise } from './pinkNoise';

/** Levels in dBFS: RMS of noise, peak of a sine or sweep less 3.01 dB, so that all read alike on an RMS meter. */
export type SignalKind =
  | { kind: 'pink'; level: number; band?: readonly [low: number, high: number] }
  | { kind: 'sine'; level: number; frequency: number }
  | { kind: 'sweep'; level: number; from: number; to: number; seconds: number }
  | { kind: 'beeps'; level: number; count: number };

const BEEP_SECONDS = 0.12;
const GAP_SECONDS = 0.13;
const REST_SECONDS = 1;
const EDGE_SECONDS = 0.01;
const BEEP_HZ = 880;

class Tone implements Generator {
  private at = 0;

  constructor(
    private readonly k: Kernels,
    /** Sample of a time, in samples from the start. */
    private readonly sample: (at: number) => number,
  ) {}

  run(buf: number, n: number): void {
    const out = this.k.f32(buf, n);
    for (let i = 0; i < n; i++) out[i] = out[i]! + this.sample(this.at++);
  }

  free(): void {}
}

/** Throws RangeError when a frequency does not fit the rate or a sweep has no length. */
export function generator(k: Kernels, rate: number, signal: SignalKind): Generator {
  const peak = k.gain(signal.level) * Math.SQRT2;
  const fits = (f: number) => {
    if (!(f > 0 && f < rate / 2)) throw new RangeError(`${f} Hz does not fit a rate of ${rate} Hz`);
  };
  switch (signal.kind) {
    case 'pink':
      signal.band?.forEach(fits);
      return new PinkNoise(k, rate, signal.level, signal.band);
    case 'sine': {
      fits(signal.frequency);
      const step = (2 * Math.PI * signal.frequency) / rate;
      return new Tone(k, (at) => peak * k.x.sin(step * at));
    }
    case 'sweep':
      return new Tone(k, sweep(k, rate, signal, peak, fits));
    case 'beeps':
      return new Tone(k, beeps(k, rate, signal.count, peak));
  }
}

// Exponential sweep: Farina, AES 108th convention, 2000, paper 5093. It starts again when it has ended.
function sweep(
  k: Kernels,
  rate: number,
  { from, to, seconds }: { from: number; to: number; seconds: number },
  peak: number,
  fits: (f: number) => void,
): (at: number) => number {
  fits(from);
  fits(to);
  if (!(seconds > 0) || from === to) throw new RangeError('a sweep goes from one frequency to another in some time');
  const frames = Math.round(seconds * rate);
  const ratio = Math.log(to / from);
  const edge = Math.min(frames / 2, EDGE_SECONDS * rate);
  return (at) => {
    const i = at % frames;
    const phase = ((2 * Math.PI * from * frames) / (rate * ratio)) * (Math.exp((i * ratio) / frames) - 1);
    return peak * Math.min(1, i / edge, (frames - i) / edge) * k.x.sin(phase);
  };
}

// As many beeps as the speaker's number, then a rest: the ear counts.
function beeps(k: Kernels, rate: number, count: number, peak: number): (at: number) => number {
  const [length, period] = [BEEP_SECONDS * rate, (BEEP_SECONDS + GAP_SECONDS) * rate];
  const all = Math.round(count * period + REST_SECONDS * rate);
  const edge = EDGE_SECONDS * rate;
  return (at) => {
    const i = at % all;
    if (i >= count * period) return 0;
    const t = i % period;
    return t < length
      ? peak * Math.min(1, t / edge, (length - t) / edge) * k.x.sin((2 * Math.PI * BEEP_HZ * t) / rate)
      : 0;
  };
}
