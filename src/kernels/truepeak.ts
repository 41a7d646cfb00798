// True peak after the outline of ITU-R BS.1770 annex 2: four times oversampled, largest magnitude. The
// interpolator is longer than the recommendation's (4 x 32 taps, Kaiser window), and the samples
// themselves count as well. A stretch is skipped when its largest sample times the filter's L1 norm cannot
// pass the peak found so far: the result is the same.
const TAPS: i32 = 32;
const PAIRS: i32 = TAPS / 2;
const HISTORY: i32 = 31;
const STRETCH: i32 = 16;
/** Looked at as a whole first. */
const LONG: i32 = 256;

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

function tap(phase: i32, k: i32): f64 {
  const PI: f64 = 3.141592653589793;
  const beta: f64 = 7.0;
  // Tap k meets the sample at offset k - 15 from the one before the new point.
  const t = <f64>(k - (PAIRS - 1)) - <f64>phase / 4.0;
  const r = t / <f64>PAIRS;
  const window = abs(r) >= 1.0 ? 0.0 : bessel0(beta * sqrt(1.0 - r * r)) / bessel0(beta);
  return (NativeMath.sin(PI * t) / (PI * t)) * window;
}

function total(phase: i32): f64 {
  let sum = 0.0;
  for (let k = 0; k < TAPS; k++) sum += tap(phase, k);
  return sum;
}

function prepare(): void {
  table = heap.alloc((3 * PAIRS) << 2);
  const quarter = total(1), half = total(2);
  let l1Quarter = 0.0, l1Half = 0.0;
  for (let k = 0; k < PAIRS; k++) {
    const a = tap(1, k) / quarter, b = tap(1, TAPS - 1 - k) / quarter, m = tap(2, k) / half;
    const t = table + ((k * 3) << 2);
    store<f32>(t, <f32>((a + b) / 2.0));
    store<f32>(t, <f32>((a - b) / 2.0), 4);
    store<f32>(t, <f32>m, 8);
    l1Quarter += abs(a) + abs(b);
    l1Half += 2.0 * abs(m);
  }
  norm = <f32>(max(l1Quarter, l1Half) * 1.0001);
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
  samplePeak = max(samplePeak, top(src, n));
  best = max(best, samplePeak);
  // The points of a stretch see 16 + 31 samples: three groups of 16 (the last one short by one).
  for (let start = 0; start < n; start += LONG) {
    const end = min(start + LONG, n);
    const begin = scratch + (<usize>start << 2);
    if (top(begin, end - start + HISTORY) * norm <= best) continue;
    let first = top(begin, min(STRETCH, n + HISTORY - start));
    let second = top(begin + (STRETCH << 2), min(STRETCH, n + HISTORY - start - STRETCH));
    for (let i = start; i < end; i += STRETCH) {
      const from = scratch + (<usize>i << 2);
      const third = top(from + ((2 * STRETCH) << 2), min(STRETCH, n + HISTORY - i - 2 * STRETCH));
      if (max(max(first, second), third) * norm > best) best = max(best, scanAll(from, min(STRETCH, end - i)));
      first = second;
      second = third;
    }
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

// All three new points between two samples, for sixteen samples at a time. The filters of the first and the
// third quarter mirror each other and the middle one mirrors itself: sums and differences of opposite samples
// serve all three. The table holds, per pair of taps, the even and odd part and the middle filter's tap.
function scanAll(from: usize, n: i32): f32 {
  let high: v128 = f32x4.splat(0);
  let i = 0;
  for (; i + 8 <= n; i += 8) {
    const base = from + (<usize>i << 2);
    let e0: v128 = f32x4.splat(0), o0: v128 = f32x4.splat(0), m0: v128 = f32x4.splat(0);
    let e1: v128 = f32x4.splat(0), o1: v128 = f32x4.splat(0), m1: v128 = f32x4.splat(0);
    for (let k = 0; k < PAIRS; k++) {
      const t = table + ((k * 3) << 2);
      const x = base + (<usize>k << 2);
      const y = base + (<usize>(TAPS - 1 - k) << 2);
      const a = v128.load(x), b = v128.load(y);
      const sum0 = f32x4.add(a, b), dif0 = f32x4.sub(a, b);
      const c = v128.load(x, 16), d = v128.load(y, 16);
      const sum1 = f32x4.add(c, d), dif1 = f32x4.sub(c, d);
      const even = v128.load32_splat(t), odd = v128.load32_splat(t, 4), middle = v128.load32_splat(t, 8);
      e0 = f32x4.add(e0, f32x4.mul(even, sum0));
      o0 = f32x4.add(o0, f32x4.mul(odd, dif0));
      m0 = f32x4.add(m0, f32x4.mul(middle, sum0));
      e1 = f32x4.add(e1, f32x4.mul(even, sum1));
      o1 = f32x4.add(o1, f32x4.mul(odd, dif1));
      m1 = f32x4.add(m1, f32x4.mul(middle, sum1));
    }
    // The larger of |e + o| and |e - o| is |e| + |o|.
    const q0 = f32x4.add(f32x4.abs(e0), f32x4.abs(o0)), q1 = f32x4.add(f32x4.abs(e1), f32x4.abs(o1));
    high = f32x4.max(high, f32x4.max(f32x4.max(q0, f32x4.abs(m0)), f32x4.max(q1, f32x4.abs(m1))));
  }
  let best = lanes(high);
  for (; i < n; i++) {
    let e: f32 = 0, o: f32 = 0, m: f32 = 0;
    for (let k = 0; k < PAIRS; k++) {
      const t = table + ((k * 3) << 2);
      const a = load<f32>(from + (<usize>(i + k) << 2));
      const b = load<f32>(from + (<usize>(i + TAPS - 1 - k) << 2));
      e += load<f32>(t) * (a + b);
      o += load<f32>(t, 4) * (a - b);
      m += load<f32>(t, 8) * (a + b);
    }
    best = max(best, max(abs(e) + abs(o), abs(m)));
  }
  return best;
}
