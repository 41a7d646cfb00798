// Rational rate conversion by a polyphase windowed sinc. Phase p of `up` has `taps` f32 coefficients.

function bessel0(x: f64): f64 {
  let sum = 1.0;
  let term = 1.0;
  for (let k = 1; k < 60; k++) {
    const h = x / (2.0 * <f64>k);
    term *= h * h;
    sum += term;
  }
  return sum;
}

/** Writes up * taps coefficients. `cutoff`: share of the input's Nyquist frequency that passes. */
export function resampleDesign(out: usize, up: i32, taps: i32, cutoff: f64, beta: f64): void {
  const PI: f64 = 3.141592653589793;
  const half = <f64>taps / 2.0;
  const scale = 1.0 / bessel0(beta);
  for (let p = 0; p < up; p++) {
    let total = 0.0;
    for (let k = 0; k < taps; k++) {
      const t = <f64>(k - (taps / 2 - 1)) - <f64>p / <f64>up;
      const r = t / half;
      const window = abs(r) >= 1.0 ? 0.0 : bessel0(beta * sqrt(1.0 - r * r)) * scale;
      const a = PI * t * cutoff;
      total += (abs(a) < 1e-12 ? 1.0 : NativeMath.sin(a) / a) * window;
      store<f32>(out + (<usize>(p * taps + k) << 2), <f32>((abs(a) < 1e-12 ? 1.0 : NativeMath.sin(a) / a) * window));
    }
    for (let k = 0; k < taps; k++) {
      const at = out + (<usize>(p * taps + k) << 2);
      store<f32>(at, <f32>(<f64>load<f32>(at) / total));
    }
  }
}

/**
 * Makes `n` output samples. Output m stands at input position (start + m) * down / up; `src` points at
 * input sample 0 and must be readable `taps / 2` samples before and after what is touched.
 */
export function resampleRun(
  src: usize, coefs: usize, up: i32, down: i32, taps: i32, start: i64, dst: usize, n: i32,
): void {
  for (let m = 0; m < n; m++) {
    const pos = (start + <i64>m) * <i64>down;
    const at = <i32>(pos / <i64>up);
    const phase = <i32>(pos % <i64>up);
    const x = src + ((<isize>(at - (taps / 2 - 1))) << 2);
    const h = coefs + (<usize>(phase * taps) << 2);
    let acc: v128 = f32x4.splat(0);
    for (let k = 0; k < taps; k += 4) {
      acc = f32x4.add(acc, f32x4.mul(v128.load(x + (<usize>k << 2)), v128.load(h + (<usize>k << 2))));
    }
    store<f32>(
      dst + (<usize>m << 2),
      f32x4.extract_lane(acc, 0) + f32x4.extract_lane(acc, 1) + f32x4.extract_lane(acc, 2) + f32x4.extract_lane(acc, 3),
    );
  }
}
