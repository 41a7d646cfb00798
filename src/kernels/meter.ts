/** Largest magnitude of `n` samples. */
export function peakAbs(buf: usize, n: i32): f32 {
  let v: v128 = f32x4.splat(0);
  let rest: f32 = 0;
  const end = n & ~3;
  let i = 0;
  for (; i < end; i += 4) v = f32x4.pmax(v, f32x4.abs(v128.load(buf + (<usize>i << 2))));
  for (; i < n; i++) rest = max(rest, abs(load<f32>(buf + (<usize>i << 2))));
  const a = max(f32x4.extract_lane(v, 0), f32x4.extract_lane(v, 1));
  const b = max(f32x4.extract_lane(v, 2), f32x4.extract_lane(v, 3));
  return max(rest, max(a, b));
}

/** Sum of the products of two signals: with itself its energy, with another one the base of their correlation. */
export function product(a: usize, b: usize, n: i32): f64 {
  let even: v128 = f64x2.splat(0);
  let odd: v128 = f64x2.splat(0);
  let rest = 0.0;
  const end = n & ~3;
  let i = 0;
  for (; i < end; i += 4) {
    const x = v128.load(a + (<usize>i << 2)), y = v128.load(b + (<usize>i << 2));
    even = f64x2.add(even, f64x2.mul(f64x2.promote_low_f32x4(x), f64x2.promote_low_f32x4(y)));
    odd = f64x2.add(odd, f64x2.mul(upper(x), upper(y)));
  }
  for (; i < n; i++) rest += <f64>load<f32>(a + (<usize>i << 2)) * <f64>load<f32>(b + (<usize>i << 2));
  const sum = f64x2.add(even, odd);
  return f64x2.extract_lane(sum, 0) + f64x2.extract_lane(sum, 1) + rest;
}

// @ts-ignore: decorator
@inline
function upper(x: v128): v128 {
  return f64x2.promote_low_f32x4(v128.shuffle<f32>(x, x, 2, 3, 2, 3));
}

/** Sum of `n` samples. */
export function sum(buf: usize, n: i32): f64 {
  let total: v128 = f64x2.splat(0);
  let rest = 0.0;
  const end = n & ~3;
  let i = 0;
  for (; i < end; i += 4) {
    const x = v128.load(buf + (<usize>i << 2));
    total = f64x2.add(total, f64x2.add(f64x2.promote_low_f32x4(x), upper(x)));
  }
  for (; i < n; i++) rest += <f64>load<f32>(buf + (<usize>i << 2));
  return f64x2.extract_lane(total, 0) + f64x2.extract_lane(total, 1) + rest;
}

/** Largest magnitude of a - b. */
export function largestDifference(a: usize, b: usize, n: i32): f32 {
  let top: f32 = 0;
  for (let i = 0; i < n; i++) {
    const at = <usize>i << 2;
    top = max(top, abs(load<f32>(a + at) - load<f32>(b + at)));
  }
  return top;
}

/** Index of the first sample whose magnitude passes `threshold`, or n. */
export function firstAbove(buf: usize, n: i32, threshold: f32): i32 {
  for (let i = 0; i < n; i++) if (abs(load<f32>(buf + (<usize>i << 2))) > threshold) return i;
  return n;
}

/** Number of samples whose magnitude is `threshold` or more. */
export function countFrom(buf: usize, n: i32, threshold: f32): i32 {
  let count = 0;
  for (let i = 0; i < n; i++) count += i32(abs(load<f32>(buf + (<usize>i << 2))) >= threshold);
  return count;
}
