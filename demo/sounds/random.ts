/** Repeatable random numbers in [0, 1): the same seed, the same sea. */
export function random(seed: number): () => number {
  let s = seed >>> 0 || 1;
  return () => {
    s ^= s << 13;
    s >>>= 0;
    s ^= s >>> 17;
    s ^= s << 5;
    s >>>= 0;
    return s / 2 ** 32;
  };
}

export const RATE = 48_000;
export const frames = (seconds: number): number => Math.round(seconds * RATE);

/** One-pole low-pass; returns the filter of one channel. */
export function smoother(hz: number): (x: number) => number {
  const a = 1 - Math.exp((-2 * Math.PI * hz) / RATE);
  let y = 0;
  return (x) => (y += a * (x - y));
}

/** Scales all channels together so that the highest sample is at `peakDb`. */
export function level(channels: Float32Array[], peakDb: number): Float32Array[] {
  let top = 0;
  for (const c of channels) for (let i = 0; i < c.length; i++) top = Math.max(top, Math.abs(c[i]!));
  const gain = top > 0 ? Math.pow(10, peakDb / 20) / top : 0;
  for (const c of channels) for (let i = 0; i < c.length; i++) c[i]! *= gain;
  return channels;
}

/** Fades the ends, in seconds, and gives the channels themselves. */
export function fade(channels: Float32Array[], rise: number, fall: number): Float32Array[] {
  const n = channels[0]!.length;
  const [up, down] = [frames(rise), frames(fall)];
  for (const c of channels) {
    for (let i = 0; i < Math.min(up, n); i++) c[i]! *= i / up;
    for (let i = 0; i < Math.min(down, n); i++) c[n - 1 - i]! *= i / down;
  }
  return channels;
}

/** Frames between two values of what moves slowly. */
const STEP = 64;

/** `f` of the frame, for what moves slowly: worked out every 64 frames, straight lines between. */
export function slowly(n: number, f: (frame: number) => number): Float32Array {
  const out = new Float32Array(n);
  let here = f(0);
  for (let from = 0; from < n; from += STEP) {
    const next = f(from + STEP);
    const slope = (next - here) / STEP;
    for (let i = from; i < Math.min(n, from + STEP); i++) out[i] = here + slope * (i - from);
    here = next;
  }
  return out;
}
