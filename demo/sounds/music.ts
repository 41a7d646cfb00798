import { fade, frames, level, RATE } from './random';

const CHORDS = [
  [146.83, 220.0, 293.66, 349.23],
  [130.81, 196.0, 261.63, 329.63],
  [116.54, 174.61, 233.08, 349.23],
  [110.0, 164.81, 220.0, 277.18],
  [146.83, 220.0, 293.66, 440.0],
] as const;

/** A slow pad in stereo: detuned partials, one chord every eighteen seconds, overlapping. */
export function pad(seconds: number): Float32Array[] {
  const n = frames(seconds);
  const each = seconds / CHORDS.length;
  const out = [new Float32Array(n), new Float32Array(n)];
  CHORDS.forEach((chord, c) => {
    const from = Math.max(0, (c - 0.15) * each);
    const until = Math.min(seconds, (c + 1.15) * each);
    for (let i = frames(from); i < frames(until); i++) {
      const t = i / RATE;
      const u = (t - from) / (until - from);
      const shape = Math.pow(Math.max(0, Math.sin(Math.PI * u)), 0.8);
      chord.forEach((f, k) => {
        const drift = 0.6 * Math.sin(2 * Math.PI * (0.05 + 0.013 * k) * t + k);
        for (const side of [0, 1]) {
          const detune = side === 0 ? 0.9985 : 1.0015;
          const p = 2 * Math.PI * f * detune * t + drift;
          out[side]![i]! +=
            shape *
            (Math.sin(p) + 0.35 * Math.sin(2 * p + drift) + 0.12 * Math.sin(3 * p)) *
            (0.7 + 0.3 * Math.sin(0.31 * t + k + side));
        }
      });
    }
  });
  return level(fade(out, 3, 6), -15);
}

/** A very low swell under the last third. */
export function drone(seconds: number): Float32Array[] {
  const out = Float32Array.from({ length: frames(seconds) }, (_, i) => {
    const t = i / RATE;
    return Math.sin(2 * Math.PI * 55 * t) * (0.6 + 0.4 * Math.sin(0.9 * t)) + 0.5 * Math.sin(2 * Math.PI * 36.7 * t);
  });
  return level(fade([out], 6, 6), -16);
}
