import { fade, frames, level, RATE, slowly } from './random';

const CHORDS = [
  [146.83, 220.0, 293.66, 349.23],
  [130.81, 196.0, 261.63, 329.63],
  [116.54, 174.61, 233.08, 349.23],
  [110.0, 164.81, 220.0, 277.18],
  [146.83, 220.0, 293.66, 440.0],
] as const;

const TABLE = 4096;
const SINE = Float64Array.from({ length: TABLE + 1 }, (_, i) => Math.sin((2 * Math.PI * i) / TABLE));

/** Sine of so many turns, to the sixth digit: the pad has fifty million of them. */
function sine(turns: number): number {
  const at = (turns - Math.floor(turns)) * TABLE;
  const i = Math.floor(at);
  return SINE[i]! + (at - i) * (SINE[i + 1]! - SINE[i]!);
}

/** A slow pad in stereo: detuned partials, one chord every eighteen seconds, overlapping. */
export function pad(seconds: number): Float32Array[] {
  const n = frames(seconds);
  const each = seconds / CHORDS.length;
  const out = [new Float32Array(n), new Float32Array(n)];
  CHORDS.forEach((chord, c) => {
    const from = Math.max(0, (c - 0.15) * each);
    const until = Math.min(seconds, (c + 1.15) * each);
    const first = frames(from);
    const length = frames(until) - first;
    const time = (i: number) => (first + i) / RATE;
    const shape = slowly(length, (i) =>
      Math.pow(Math.max(0, Math.sin((Math.PI * (time(i) - from)) / (until - from))), 0.8),
    );
    chord.forEach((f, k) => {
      const drift = slowly(length, (i) => 0.6 * Math.sin(2 * Math.PI * (0.05 + 0.013 * k) * time(i) + k));
      [0.9985, 1.0015].forEach((detune, side) => {
        const swell = slowly(length, (i) => 0.7 + 0.3 * Math.sin(0.31 * time(i) + k + side));
        const to = out[side]!;
        for (let i = 0; i < length; i++) {
          const turns = f * detune * time(i) + drift[i]! / (2 * Math.PI);
          const s = sine(turns);
          const c = sine(turns + 0.25);
          // The second partial drifts on by itself, nearly as far as the first.
          const second = 2 * s * c + drift[i]! * (1 - 2 * s * s);
          const third = s * (3 - 4 * s * s);
          to[first + i]! += shape[i]! * swell[i]! * (s + 0.35 * second + 0.12 * third);
        }
      });
    });
  });
  return level(fade(out, 3, 6), -15);
}

/** A very low swell under the last third. */
export function drone(seconds: number): Float32Array[] {
  const out = new Float32Array(frames(seconds));
  const swell = slowly(out.length, (i) => 0.6 + 0.4 * Math.sin((0.9 * i) / RATE));
  for (let i = 0; i < out.length; i++) {
    const t = i / RATE;
    out[i] = Math.sin(2 * Math.PI * 55 * t) * swell[i]! + 0.5 * Math.sin(2 * Math.PI * 36.7 * t);
  }
  return level(fade([out], 6, 6), -16);
}
