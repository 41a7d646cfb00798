/** Largest magnitude of `n` samples. */
export function peakAbs(buf: usize, n: i32): f32 {
  let v: v128 = f32x4.splat(0);
  let rest: f32 = 0;
  const end = n & ~3;
  let i = 0;
  for (; i < end; i += 4) v = f32x4.max(v, f32x4.abs(v128.load(buf + (<usize>i << 2))));
  for (; i < n; i++) rest = max(rest, abs(load<f32>(buf + (<usize>i << 2))));
  const a = max(f32x4.extract_lane(v, 0), f32x4.extract_lane(v, 1));
  const b = max(f32x4.extract_lane(v, 2), f32x4.extract_lane(v, 3));
  return max(rest, max(a, b));
}

/** Sum of squares of `n` samples. */
export function energy(buf: usize, n: i32): f64 {
  let sum = 0.0;
  for (let i = 0; i < n; i++) {
    const x = <f64>load<f32>(buf + (<usize>i << 2));
    sum += x * x;
  }
  return sum;
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
