// Twice the rate behind a steep low pass: blocks that overlap, filtered by transforms (overlap-save; Oppenheim and
// Schafer, Discrete-Time Signal Processing, 3rd ed., 8.7.3). The filter is symmetric around zero, so that its transform is
// real and it delays nothing; two channels go through one transform, as its real and its imaginary part.
import { fftRun } from './fft';
import { bessel0 } from './math';

/**
 * Writes the transform of the filter at the doubled rate: 2n real factors (f64). `half`: input samples to each side;
 * `cutoff`: share of the input's Nyquist frequency that passes; a Kaiser window of `beta`. `work`: 8n f64. `table`: of 2n.
 */
export function steepDesign(out: usize, n: i32, half: i32, cutoff: f64, beta: f64, work: usize, table: usize): void {
  const PI: f64 = 3.141592653589793;
  const size = 2 * n;
  const bytes = <usize>size << 3;
  memory.fill(work, 0, 2 * bytes);
  const scale = 1.0 / bessel0(beta);
  let total = 0.0;
  for (let i = 1 - 2 * half; i < 2 * half; i++) {
    const t = <f64>i / 2.0;
    const r = t / <f64>half;
    const a = PI * t * cutoff;
    const tap = (i === 0 ? 1.0 : NativeMath.sin(a) / a) * bessel0(beta * sqrt(1.0 - r * r)) * scale;
    total += tap;
    store<f64>(work + (<usize>(i & (size - 1)) << 3), tap);
  }
  fftRun(work, work + bytes, work + 2 * bytes, work + 3 * bytes, table, size, size);
  // Two for the samples that are put between, one over 2n for the way back.
  const gain = 1.0 / (total * <f64>n);
  for (let k = 0; k < size; k++) store<f64>(out + (<usize>k << 3), load<f64>(work + (<usize>k << 3)) * gain);
}

/**
 * Of `n` input samples of channels `a` and `b` (f32; `b` may be 0) writes 2 (n - 2 half) at twice the rate to `outA` and
 * `outB`: from the time of input sample `half` on. `gains`, `table`: of `steepDesign`; `work`: 8n f64.
 */
export function steepRun(
  a: usize, b: usize, n: i32, half: i32, gains: usize, work: usize, table: usize, outA: usize, outB: usize,
): void {
  const size = 2 * n;
  const bytes = <usize>size << 3;
  const re = work, im = work + bytes, re2 = work + 2 * bytes, im2 = work + 3 * bytes;
  for (let i = 0; i < n; i += 2) {
    v128.store(re + (<usize>i << 3), f64x2.promote_low_f32x4(v128.load64_zero(a + (<usize>i << 2))));
    v128.store(
      im + (<usize>i << 3),
      b ? f64x2.promote_low_f32x4(v128.load64_zero(b + (<usize>i << 2))) : f64x2.splat(0),
    );
  }
  fftRun(re, im, re2, im2, table, size, n);
  // Zeros between samples repeat the spectrum.
  const above = <usize>n << 3;
  for (let at: usize = 0; at < above; at += 16) {
    const r = v128.load(re + at), i = v128.load(im + at);
    const low = v128.load(gains + at), high = v128.load(gains + above + at);
    v128.store(re + at, f64x2.mul(r, low));
    v128.store(im + at, f64x2.mul(i, low));
    v128.store(re + above + at, f64x2.mul(r, high));
    v128.store(im + above + at, f64x2.mul(i, high));
  }
  // The parts exchanged: back.
  fftRun(im, re, im2, re2, table, size, size);
  const from = <usize>(2 * half) << 3;
  const frames = 2 * (n - 2 * half);
  for (let i = 0; i < frames; i += 2) {
    v128.store64_lane(outA + (<usize>i << 2), f32x4.demote_f64x2_zero(v128.load(re + from + (<usize>i << 3))), 0);
    if (b) v128.store64_lane(outB + (<usize>i << 2), f32x4.demote_f64x2_zero(v128.load(im + from + (<usize>i << 3))), 0);
  }
}
