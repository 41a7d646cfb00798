// Rational rate conversion by a polyphase windowed sinc. Phase p of `up` has `taps` f32 coefficients.
import { bessel0 } from './math';

/** Writes up * taps coefficients. `cutoff`: share of the input's Nyquist frequency that passes. */
export function resampleDesign(out: usize, up: i32, taps: i32, cutoff: f64, beta: f64): void {
  const PI: f64 = 3.141592653589793;
  const half = <f64>taps / 2.0;
  const scale = 1.0 / bessel0(beta);
  const row = heap.alloc(<usize>taps << 3);
  for (let p = 0; p < up; p++) {
    let total = 0.0;
    for (let k = 0; k < taps; k++) {
      const t = <f64>(k - (taps / 2 - 1)) - <f64>p / <f64>up;
      const r = t / half;
      const window = abs(r) >= 1.0 ? 0.0 : bessel0(beta * sqrt(1.0 - r * r)) * scale;
      const a = PI * t * cutoff;
      const tap = (abs(a) < 1e-12 ? 1.0 : NativeMath.sin(a) / a) * window;
      total += tap;
      store<f64>(row + (<usize>k << 3), tap);
    }
    for (let k = 0; k < taps; k++) {
      store<f32>(out + (<usize>(p * taps + k) << 2), <f32>(load<f64>(row + (<usize>k << 3)) / total));
    }
  }
  heap.free(row);
}

/**
 * Makes `n` output samples. Output m stands at input position (start + m) * down / up; `src` points at
 * input sample 0 and must be readable `taps / 2` samples before and after what is touched; `taps` is a
 * multiple of 8. Outputs `up` apart share their coefficients: four of them are made at a time.
 */
export function resampleRun(
  src: usize, coefs: usize, up: i32, down: i32, taps: i32, start: i64, dst: usize, n: i32,
): void {
  // A few thousand outputs at a time, so that their input stays in the nearest cache for all phases.
  const most = up * max(16, 2048 / up);
  for (let m = 0; m < n; m += most)
    resamplePart(src, coefs, up, down, taps, start + <i64>m, dst + (<usize>m << 2), min(most, n - m));
}

function resamplePart(
  src: usize, coefs: usize, up: i32, down: i32, taps: i32, start: i64, dst: usize, n: i32,
): void {
  const bytes = <usize>taps << 2;
  const lead = <isize>(taps / 2 - 1);
  const hop = <usize>down << 2;
  for (let r = 0; r < min(up, n); r++) {
    const pos = (start + <i64>r) * <i64>down;
    const h = coefs + <usize>(pos % <i64>up) * bytes;
    let x = src + ((<isize>(pos / <i64>up) - lead) << 2);
    let m = r;
    for (; m + 3 * up < n; m += 4 * up) {
      four(x, hop, h, bytes, dst + (<usize>m << 2), <usize>up << 2);
      x += 4 * hop;
    }
    for (; m < n; m += up) {
      one(x, h, bytes, dst + (<usize>m << 2));
      x += hop;
    }
  }
}

// Two sums of four lanes each; joined in f64.
// @ts-ignore: decorator
@inline
function total(a: v128, b: v128): f64 {
  const s = f64x2.add(f64x2.promote_low_f32x4(a), f64x2.promote_low_f32x4(b));
  const t = f64x2.add(
    f64x2.promote_low_f32x4(v128.shuffle<f32>(a, a, 2, 3, 2, 3)),
    f64x2.promote_low_f32x4(v128.shuffle<f32>(b, b, 2, 3, 2, 3)),
  );
  const all = f64x2.add(s, t);
  return f64x2.extract_lane(all, 0) + f64x2.extract_lane(all, 1);
}

function one(x: usize, h: usize, bytes: usize, dst: usize): void {
  let a: v128 = f32x4.splat(0), b: v128 = f32x4.splat(0);
  for (let k: usize = 0; k < bytes; k += 32) {
    a = f32x4.add(a, f32x4.mul(v128.load(x + k), v128.load(h + k)));
    b = f32x4.add(b, f32x4.mul(v128.load(x + k, 16), v128.load(h + k, 16)));
  }
  store<f32>(dst, <f32>total(a, b));
}

function four(x0: usize, hop: usize, h: usize, bytes: usize, dst: usize, step: usize): void {
  const x1 = x0 + hop, x2 = x1 + hop, x3 = x2 + hop;
  let a0: v128 = f32x4.splat(0), b0: v128 = f32x4.splat(0), a1: v128 = f32x4.splat(0), b1: v128 = f32x4.splat(0);
  let a2: v128 = f32x4.splat(0), b2: v128 = f32x4.splat(0), a3: v128 = f32x4.splat(0), b3: v128 = f32x4.splat(0);
  for (let k: usize = 0; k < bytes; k += 32) {
    const g = v128.load(h + k), f = v128.load(h + k, 16);
    a0 = f32x4.add(a0, f32x4.mul(v128.load(x0 + k), g));
    b0 = f32x4.add(b0, f32x4.mul(v128.load(x0 + k, 16), f));
    a1 = f32x4.add(a1, f32x4.mul(v128.load(x1 + k), g));
    b1 = f32x4.add(b1, f32x4.mul(v128.load(x1 + k, 16), f));
    a2 = f32x4.add(a2, f32x4.mul(v128.load(x2 + k), g));
    b2 = f32x4.add(b2, f32x4.mul(v128.load(x2 + k, 16), f));
    a3 = f32x4.add(a3, f32x4.mul(v128.load(x3 + k), g));
    b3 = f32x4.add(b3, f32x4.mul(v128.load(x3 + k, 16), f));
  }
  store<f32>(dst, <f32>total(a0, b0));
  store<f32>(dst + step, <f32>total(a1, b1));
  store<f32>(dst + 2 * step, <f32>total(a2, b2));
  store<f32>(dst + 3 * step, <f32>total(a3, b3));
}
