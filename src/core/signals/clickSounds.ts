import type { Kernels } from '@/core/kernels';
import type { ClickSound } from '@/core/session';

export type AuditionSound = ClickSound | 'beep';

interface Recipe {
  /** Hz, and Hz of the accent. */
  pitch: number;
  accent: number;
  seconds: number;
  /** Whether it dies away, or stops with short ramps. */
  decays: boolean;
}

const RECIPES: Record<AuditionSound, Recipe> = {
  tick: { pitch: 2400, accent: 3200, seconds: 0.02, decays: true },
  wood: { pitch: 820, accent: 1230, seconds: 0.06, decays: true },
  tone: { pitch: 880, accent: 1320, seconds: 0.08, decays: false },
  // Common practice, no source: 1 kHz, a frame or two long.
  beep: { pitch: 1000, accent: 1000, seconds: 0.08, decays: false },
};

const RAMP_SECONDS = 0.003;

/** One click or beep with a peak of full scale, at `rate` Hz. */
export function auditionSound(k: Kernels, sound: AuditionSound, accent: boolean, rate: number): Float32Array {
  const recipe = RECIPES[sound];
  const pitch = accent ? recipe.accent : recipe.pitch;
  const frames = Math.round(recipe.seconds * rate);
  const ramp = RAMP_SECONDS * rate;
  return Float32Array.from({ length: frames }, (_, i) => {
    const edge = Math.min(1, (i + 1) / ramp, (frames - i) / ramp);
    const shape = recipe.decays ? k.x.dbToGain((-60 * i) / frames) * Math.min(1, (frames - i) / ramp) : edge;
    return shape * k.x.sin((2 * Math.PI * pitch * (i + 0.5)) / rate);
  });
}
