// What stands between samples, for the limiter: three points between each two (ITU-R BS.1770 annex 2: four
// times oversampled) by an interpolator of 4 x 32 taps (Kaiser window). The filters of the first and the third
// quarter mirror each other and the middle one mirrors itself: sums and differences of opposite samples serve
// all three. The table holds, per pair of taps, the even and odd part and the middle filter's tap.
import { bessel0 } from './math';

const TAPS: i32 = 32;
const PAIRS: i32 = TAPS / 2;
const HISTORY: i32 = 31;
/** Samples before a stretch that its points between samples need. */
export const TRUEPEAK_HISTORY: i32 = HISTORY;

let table: usize = 0;
let norm: f32 = 0;

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

export function top(buf: usize, n: i32): f32 {
  let v: v128 = f32x4.splat(0);
  let rest: f32 = 0;
  const end = n & ~3;
  let i = 0;
  for (; i < end; i += 4) v = f32x4.pmax(v, f32x4.abs(v128.load(buf + (<usize>i << 2))));
  for (; i < n; i++) rest = max(rest, abs(load<f32>(buf + (<usize>i << 2))));
  return max(rest, lanes(v));
}

// @ts-ignore: decorator
@inline
export function lanes(v: v128): f32 {
  const pairs = f32x4.pmax(v, v128.shuffle<f32>(v, v, 2, 3, 0, 1));
  return f32x4.extract_lane(f32x4.pmax(pairs, v128.shuffle<f32>(pairs, pairs, 1, 0, 3, 2)), 0);
}

/** No point between samples passes this many times the largest sample around it. */
export function truePeakNorm(): f32 {
  if (table == 0) prepare();
  return norm;
}

/**
 * Raises `out[i]` (f32) to the largest magnitude of the sample that came 16 before the i-th new one, its
 * successor and the three points between them. `scratch`: 31 earlier samples, then `n` new ones, and room
 * for `n` f32 behind them. Points that cannot pass `floor` may be left out.
 */
export function truePeakEnvelope(scratch: usize, n: i32, floor: f32, out: usize): void {
  if (table == 0) prepare();
  const middle = scratch + ((PAIRS - 1) << 2);
  for (let i = 0; i < n; i++) {
    const at = <usize>i << 2;
    store<f32>(out + at, max(load<f32>(out + at), max(abs(load<f32>(middle + at)), abs(load<f32>(middle + at, 4)))));
  }
  for (let i = 0; i < n; i += 4) {
    const from = scratch + (<usize>i << 2);
    const part = min(4, n - i);
    if (top(from, part + HISTORY) * norm <= floor) continue;
    if (part == 4) {
      const to = out + (<usize>i << 2);
      v128.store(to, f32x4.pmax(v128.load(to), pointsOf4(from)));
    } else {
      for (let k = 0; k < part; k++) {
        const to = out + (<usize>(i + k) << 2);
        store<f32>(to, max(load<f32>(to), pointsOf1(from + (<usize>k << 2))));
      }
    }
  }
}

function pointsOf4(from: usize): v128 {
  let e: v128 = f32x4.splat(0), o: v128 = f32x4.splat(0), m: v128 = f32x4.splat(0);
  for (let k = 0; k < PAIRS; k++) {
    const t = table + ((k * 3) << 2);
    const a = v128.load(from + (<usize>k << 2)), b = v128.load(from + (<usize>(TAPS - 1 - k) << 2));
    const sum = f32x4.add(a, b), difference = f32x4.sub(a, b);
    e = f32x4.add(e, f32x4.mul(v128.load32_splat(t), sum));
    o = f32x4.add(o, f32x4.mul(v128.load32_splat(t, 4), difference));
    m = f32x4.add(m, f32x4.mul(v128.load32_splat(t, 8), sum));
  }
  return f32x4.pmax(f32x4.add(f32x4.abs(e), f32x4.abs(o)), f32x4.abs(m));
}

function pointsOf1(from: usize): f32 {
  let e: f32 = 0, o: f32 = 0, m: f32 = 0;
  for (let k = 0; k < PAIRS; k++) {
    const t = table + ((k * 3) << 2);
    const a = load<f32>(from + (<usize>k << 2));
    const b = load<f32>(from + (<usize>(TAPS - 1 - k) << 2));
    e += load<f32>(t) * (a + b);
    o += load<f32>(t, 4) * (a - b);
    m += load<f32>(t, 8) * (a + b);
  }
  return max(abs(e) + abs(o), abs(m));
}
