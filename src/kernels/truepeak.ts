// True peak after the outline of ITU-R BS.1770 annex 2: four times oversampled, largest magnitude. The
// interpolator is longer than the recommendation's (4 x 32 taps, Kaiser window), and the samples
// themselves count as well. A stretch is skipped when its largest sample times the filter's L1 norm cannot
// pass the peak found so far: the result is the same.
const TAPS: i32 = 32;
const HISTORY: i32 = 31;
const STRETCH: i32 = 64;

let table: usize = 0;
let norm: f32 = 0;

function bessel0(x: f64): f64 {
  let sum = 1.0;
  let term = 1.0;
  for (let k = 1; k < 40; k++) {
    const h = x / (2.0 * <f64>k);
    term *= h * h;
    sum += term;
  }
  return sum;
}

function prepare(): void {
  const PI: f64 = 3.141592653589793;
  const beta: f64 = 7.0;
  table = heap.alloc((3 * TAPS) << 2);
  for (let phase = 1; phase < 4; phase++) {
    let total = 0.0;
    const h = table + (((phase - 1) * TAPS) << 2);
    for (let k = 0; k < TAPS; k++) {
      // Tap k meets the sample at offset k - 15 from the one before the new point.
      const t = <f64>(k - (TAPS / 2 - 1)) - <f64>phase / 4.0;
      const r = t / <f64>(TAPS / 2);
      const window = abs(r) >= 1.0 ? 0.0 : bessel0(beta * sqrt(1.0 - r * r)) / bessel0(beta);
      const v = (NativeMath.sin(PI * t) / (PI * t)) * window;
      total += v;
      store<f32>(h + (k << 2), <f32>v);
    }
    let l1 = 0.0;
    for (let k = 0; k < TAPS; k++) {
      const v = <f32>(<f64>load<f32>(h + (k << 2)) / total);
      store<f32>(h + (k << 2), v);
      l1 += abs(<f64>v);
    }
    norm = max(norm, <f32>(l1 * 1.0001));
  }
}

// {peak f32 @0, sample peak f32 @4, history 31 f32 @16}
export const TRUEPEAK_BYTES: i32 = 144;

/** Looks at `n` samples; `scratch` has room for n + 31 f32. */
export function truePeakRun(p: usize, src: usize, n: i32, scratch: usize): void {
  if (table == 0) prepare();
  memory.copy(scratch, p + 16, HISTORY << 2);
  memory.copy(scratch + (HISTORY << 2), src, <usize>n << 2);
  let best = load<f32>(p, 0);
  let samplePeak = load<f32>(p, 4);
  let i = 0;
  while (i < n) {
    const part = min(STRETCH, n - i);
    const from = scratch + (<usize>i << 2);
    samplePeak = max(samplePeak, top(from + (HISTORY << 2), part));
    best = max(best, samplePeak);
    if (top(from, part + HISTORY) * norm > best) {
      for (let phase = 0; phase < 3; phase++) best = max(best, scan(from, part, table + ((phase * TAPS) << 2)));
    }
    i += part;
  }
  store<f32>(p, best, 0);
  store<f32>(p, samplePeak, 4);
  memory.copy(p + 16, scratch + (<usize>n << 2), HISTORY << 2);
}

function top(buf: usize, n: i32): f32 {
  let v: v128 = f32x4.splat(0);
  let rest: f32 = 0;
  const end = n & ~3;
  let i = 0;
  for (; i < end; i += 4) v = f32x4.max(v, f32x4.abs(v128.load(buf + (<usize>i << 2))));
  for (; i < n; i++) rest = max(rest, abs(load<f32>(buf + (<usize>i << 2))));
  return max(rest, lanes(v));
}

// @ts-ignore: decorator
@inline
function lanes(v: v128): f32 {
  return max(
    max(f32x4.extract_lane(v, 0), f32x4.extract_lane(v, 1)),
    max(f32x4.extract_lane(v, 2), f32x4.extract_lane(v, 3)),
  );
}

// Eight new points at a time; the points beyond `n` would need samples not there yet.
function scan(from: usize, n: i32, h: usize): f32 {
  let high: v128 = f32x4.splat(0);
  let i = 0;
  for (; i + 8 <= n; i += 8) {
    let a: v128 = f32x4.splat(0);
    let b: v128 = f32x4.splat(0);
    const base = from + (<usize>i << 2);
    for (let k = 0; k < TAPS; k++) {
      const c = v128.load32_splat(h + (<usize>k << 2));
      const x = base + (<usize>k << 2);
      a = f32x4.add(a, f32x4.mul(c, v128.load(x)));
      b = f32x4.add(b, f32x4.mul(c, v128.load(x, 16)));
    }
    high = f32x4.max(high, f32x4.max(f32x4.abs(a), f32x4.abs(b)));
  }
  let best = lanes(high);
  for (; i < n; i++) {
    let sum: f32 = 0;
    for (let k = 0; k < TAPS; k++) sum += load<f32>(h + (<usize>k << 2)) * load<f32>(from + (<usize>(i + k) << 2));
    best = max(best, abs(sum));
  }
  return best;
}
