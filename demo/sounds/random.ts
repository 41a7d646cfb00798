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
  for (const c of channels) for (const x of c) top = Math.max(top, Math.abs(x));
  const gain = top > 0 ? Math.pow(10, peakDb / 20) / top : 0;
  return channels.map((c) => c.map((x) => x * gain));
}

/** Fades the ends, in seconds. */
export function fade(channels: Float32Array[], rise: number, fall: number): Float32Array[] {
  const n = channels[0]!.length;
  return channels.map((c) => c.map((x, i) => x * Math.min(1, i / frames(rise), (n - 1 - i) / frames(fall))));
}
