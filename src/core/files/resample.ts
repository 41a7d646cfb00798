import type { Kernels } from '@/core/kernels';

const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);

/**
 * A whole signal at another rate: polyphase windowed sinc, 96 taps on the slower side, Kaiser window
 * (beta 12). Any two integer rates whose ratio is rational with a numerator up to 1000. Throws RangeError
 * beyond that.
 */
export function resample(k: Kernels, samples: Float32Array, from: number, to: number): Float32Array {
  if (from === to) return samples.slice();
  const d = gcd(from, to);
  const up = to / d;
  const down = from / d;
  if (up > 1000 || down > 1000) throw new RangeError(`no conversion from ${from} to ${to} Hz`);
  const wide = Math.max(1, down / up);
  const taps = Math.ceil((96 * wide) / 8) * 8;
  const cutoff = 0.95 / wide;
  const coefs = k.x.alloc(up * taps * 4);
  k.x.resampleDesign(coefs, up, taps, cutoff, 12);
  const source = k.x.alloc((samples.length + 2 * taps) * 4);
  k.f32(source + taps * 4, samples.length).set(samples);
  const length = Math.ceil((samples.length * up) / down);
  const target = k.x.alloc(length * 4);
  k.x.resampleRun(source + taps * 4, coefs, up, down, taps, 0n, target, length);
  const out = k.f32(target, length).slice();
  [coefs, source, target].forEach((p) => k.x.release(p));
  return out;
}
