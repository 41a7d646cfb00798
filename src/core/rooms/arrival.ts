import type { Kernels } from '@/core/kernels';

/** How a burst that was sounded by a loudspeaker came to a microphone. */
export interface Arrival {
  /** Samples from sounding to arriving, with parts of a sample. */
  delay: number;
  /** Whether it came as it was sent, or with the opposite sign. */
  sign: 1 | -1;
  /** dB against what was sent. */
  level: number;
  /** Normalised cross-correlation there: 1 is the same sound. */
  likeness: number;
}

/** The direct sound is the first that is at least so strong as the strongest: a reflection may be louder. */
const DIRECT = 0.6;
/** Below this likeness nothing of a burst was heard (common practice, no source). */
const HEARD = 0.15;

const energy = (x: Float32Array, from: number, n: number): number => {
  let sum = 0;
  for (let i = from; i < from + n; i++) sum += x[i]! * x[i]!;
  return sum;
};

/** Sum over i of sent[i] heard[lag + i] for lags from 0, by the transforms of both. */
function correlation(k: Kernels, sent: Float32Array, heard: Float32Array, lags: number): Float64Array {
  const size = 2 ** Math.ceil(Math.log2(heard.length + sent.length));
  const table = k.x.alloc(k.x.fftTableBytes(size));
  k.x.fftTable(table, size);
  const x = k.x.alloc(size * 32);
  const transform = (lay: (at: number) => readonly [number, number]): Float64Array => {
    const bytes = size * 8;
    const [re, im, re2, im2] = [0, 1, 2, 3].map((i) => x + i * bytes) as [number, number, number, number];
    const view = k.f64(x, size * 2);
    for (let i = 0; i < size; i++) [view[i], view[size + i]] = lay(i);
    k.x.fftRun(re, im, re2, im2, table, size, size);
    return k.f64(x, size * 2).slice();
  };
  const a = transform((i) => [sent[i] ?? 0, 0]);
  const b = transform((i) => [heard[i] ?? 0, 0]);
  // Back again by the transform of the conjugate.
  const product = transform((i) => {
    const [ar, ai, br, bi] = [a[i]!, a[size + i]!, b[i]!, b[size + i]!];
    return [ar * br + ai * bi, -(ar * bi - ai * br)];
  });
  k.x.release(table);
  k.x.release(x);
  return Float64Array.from({ length: lags }, (_, lag) => product[lag]! / size);
}

/**
 * When, with which sign and how loud `sent` came in `heard`, which begins when it was sounded; looked for up to `most`
 * samples later. By cross-correlation (the matched filter), between samples by the parabola through three of its values.
 * Null where nothing of it was heard.
 */
export function arrivalOf(k: Kernels, sent: Float32Array, heard: Float32Array, most: number): Arrival | null {
  const n = sent.length;
  const lags = Math.min(most, heard.length - n) + 1;
  if (lags < 1) return null;
  const own = energy(sent, 0, n);
  const by = correlation(k, sent, heard, lags).map((v) => v / own);
  const strongest = by.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
  if (!(strongest > 0)) return null;
  let at = by.findIndex((v) => Math.abs(v) >= DIRECT * strongest);
  while (at + 1 < lags && Math.abs(by[at + 1]!) > Math.abs(by[at]!)) at++;
  const likeness = (Math.abs(by[at]!) * own) / Math.sqrt(own * energy(heard, at, n) || Infinity);
  if (likeness < HEARD) return null;
  const [before, peak, after] = [by[at - 1] ?? 0, by[at]!, by[at + 1] ?? 0].map(Math.abs) as [number, number, number];
  const bend = before - 2 * peak + after;
  const shift = bend < 0 ? (before - after) / (2 * bend) : 0;
  return { delay: at + shift, sign: by[at]! < 0 ? -1 : 1, level: 20 * Math.log10(peak), likeness };
}
