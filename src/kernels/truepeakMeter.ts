// True peak after the outline of ITU-R BS.1770 annex 2: four times oversampled, largest magnitude; the samples
// themselves count as well. Twice two: the points in the middle by a half-band filter of 32 taps, the quarters
// in the middle of those by one of 10 taps, for which the signal leaves room. What cannot pass the peak found so
// far is skipped: a filter gives at most the largest sample under it times its L1 norm. The result is the same.
import { bessel0 } from './math';
import { lanes, top } from './truepeak';

const PAIRS: i32 = 16;
const FINE: i32 = 5;
/** Samples before a block that its points need: 31 for a middle, two middles on either side for a quarter. */
const HISTORY: i32 = 35;
const STRETCH: i32 = 16;
const CHUNK: i32 = 2048;

// {peak f32 @0, sample peak f32 @4, history 35 f32 @16}
export const TRUEPEAK_BYTES: i32 = 160;

let middleTaps: usize = 0;
let fineTaps: usize = 0;
let samples: usize = 0;
let maxima: usize = 0;
let middles: usize = 0;
/** L1 norms: of all points by their samples, of the quarters by samples and middles. */
let wholeNorm: f32 = 0;
let fineNorm: f32 = 0;
/** A point passes the samples around it by at most this many times their largest second difference. */
let bend: f32 = 0;

/** Tap `k` (0: next to the middle) of a half-band interpolator with `pairs` pairs. */
function halfBand(k: i32, pairs: i32, beta: f64): f64 {
  const PI: f64 = 3.141592653589793;
  const t = <f64>k + 0.5;
  const r = t / <f64>pairs;
  return (NativeMath.sin(PI * t) / (PI * t)) * (bessel0(beta * sqrt(1.0 - r * r)) / bessel0(beta));
}

function fill(taps: usize, pairs: i32, beta: f64): f64 {
  let total = 0.0;
  let norm = 0.0;
  for (let k = 0; k < pairs; k++) total += 2.0 * halfBand(k, pairs, beta);
  for (let k = 0; k < pairs; k++) {
    const tap = halfBand(k, pairs, beta) / total;
    store<f32>(taps + (<usize>k << 2), <f32>tap);
    norm += 2.0 * abs(tap);
  }
  return norm;
}

// The interpolator less the straight line through the two samples has a double zero at zero frequency: it is a
// filter on second differences. Its L1 norm, from the taps summed up twice.
function bendOf(taps: usize, pairs: i32): f64 {
  let once = 0.0, twice = 0.0, norm = 0.0;
  for (let i = 0; i < 2 * pairs; i++) {
    const k = i < pairs ? pairs - 1 - i : i - pairs;
    once += <f64>load<f32>(taps + (<usize>k << 2)) - (k == 0 ? 0.5 : 0.0);
    twice += once;
    norm += abs(twice);
  }
  return norm;
}

function prepare(): void {
  middleTaps = heap.alloc(PAIRS << 2);
  fineTaps = heap.alloc(FINE << 2);
  samples = heap.alloc((CHUNK + 4 * STRETCH + HISTORY) << 2);
  maxima = heap.alloc((CHUNK / STRETCH + 8) << 2);
  middles = heap.alloc((CHUNK + 4 * STRETCH) << 2);
  memory.fill(samples, 0, (CHUNK + 4 * STRETCH + HISTORY) << 2);
  const middleNorm = fill(middleTaps, PAIRS, 7.0);
  const fine = fill(fineTaps, FINE, 6.0);
  fineNorm = <f32>(fine * 1.0001);
  // Second differences of samples and middles together are at most half of the samples' own and twice what
  // the middles stand off the line.
  const middleBend = bendOf(middleTaps, PAIRS);
  bend = <f32>((middleBend + bendOf(fineTaps, FINE) * (0.5 + 2.0 * middleBend)) * 1.0001);
  wholeNorm = <f32>(fine * max(1.0, middleNorm) * 1.0001);
}

/** Looks at `n` samples; points between them are seen once the 18 samples behind them are there. */
export function truePeakRun(p: usize, src: usize, n: i32): void {
  if (middleTaps == 0) prepare();
  for (let i = 0; i < n; i += CHUNK) chunk(p, src + (<usize>i << 2), min(CHUNK, n - i));
}

function chunk(p: usize, src: usize, n: i32): void {
  memory.copy(samples, p + 16, HISTORY << 2);
  memory.copy(samples + (HISTORY << 2), src, <usize>n << 2);
  let samplePeak = load<f32>(p, 4);
  const all = n + HISTORY;
  const stretches = (all + STRETCH - 1) / STRETCH;
  for (let s = 0; s < stretches; s++) {
    const i = s * STRETCH;
    const high = all - i >= STRETCH ? sixteen(samples + (<usize>i << 2)) : top(samples + (<usize>i << 2), all - i);
    store<f32>(maxima + (<usize>s << 2), high);
    samplePeak = max(samplePeak, high);
  }
  for (let s = stretches; s < stretches + 4; s++) store<f32>(maxima + (<usize>s << 2), 0);
  let best = max(load<f32>(p, 0), samplePeak);
  // The points of a stretch are touched by its own samples and the 35 before them: four stretches.
  let i = 0;
  while (i < n) {
    if (!mayPass(i, best)) {
      i += STRETCH;
      continue;
    }
    let end = i + STRETCH;
    // What follows on a loud stretch mostly is as loud: the bend is looked at anew every fourth time.
    while (end < n && ((end - i) & 48 ? reach(end / STRETCH) * wholeNorm > best : mayPass(end, best))) end += STRETCH;
    best = scan(i, min(end, n) - i, best);
    i = end;
  }
  store<f32>(p, best, 0);
  store<f32>(p, samplePeak, 4);
  memory.copy(p + 16, samples + (<usize>n << 2), HISTORY << 2);
}

// @ts-ignore: decorator
@inline
function reach(s: i32): f32 {
  const m = maxima + (<usize>s << 2);
  return max(max(load<f32>(m), load<f32>(m, 4)), max(load<f32>(m, 8), load<f32>(m, 12)));
}

// @ts-ignore: decorator
@inline
function mayPass(i: i32, best: f32): bool {
  const high = reach(i / STRETCH);
  return high * wholeNorm > best && high * <f32>1.0001 + bend * curvature(samples + (<usize>i << 2)) > best;
}

/** Largest second difference of the 51 samples that the points of a stretch are made of. */
function curvature(at: usize): f32 {
  let high: v128 = f32x4.splat(0);
  for (let i: usize = 4; i < 204; i += 16) {
    const middle = v128.load(at + i);
    const d = f32x4.sub(f32x4.add(v128.load(at + i - 4), v128.load(at + i, 4)), f32x4.add(middle, middle));
    high = f32x4.pmax(high, f32x4.abs(d));
  }
  return lanes(high);
}

// @ts-ignore: decorator
@inline
function sixteen(at: usize): f32 {
  const a = f32x4.pmax(f32x4.abs(v128.load(at)), f32x4.abs(v128.load(at, 16)));
  const b = f32x4.pmax(f32x4.abs(v128.load(at, 32)), f32x4.abs(v128.load(at, 48)));
  return lanes(f32x4.pmax(a, b));
}

/** Points of `count` samples from `from`: first all middles, then the quarters where they may matter. */
function scan(from: i32, count: i32, found: f32): f32 {
  const base = samples + (<usize>from << 2);
  const need = count + 4;
  for (let i = 0; i < need; i += 16) sixteenMiddles(base + (<usize>i << 2), middles + (<usize>i << 2));
  // Middles beyond the last whole group lean on samples that are not there yet.
  let best = max(found, top(middles + 8, count));
  for (let i = 0; i < count; i += 4) {
    const m = middles + (<usize>i << 2);
    const x = base + (<usize>(i + 15) << 2);
    const part = min(4, count - i);
    const high = f32x4.pmax(
      f32x4.pmax(f32x4.abs(v128.load(m)), f32x4.abs(v128.load(m, 16))),
      f32x4.pmax(f32x4.abs(v128.load(x)), f32x4.pmax(f32x4.abs(v128.load(x, 16)), f32x4.abs(v128.load(x, 20)))),
    );
    if (lanes(high) * fineNorm <= best) continue;
    const q = quarters(x, m);
    if (part == 4) best = max(best, lanes(q));
    else {
      best = max(best, f32x4.extract_lane(q, 0));
      if (part > 1) best = max(best, f32x4.extract_lane(q, 1));
      if (part > 2) best = max(best, f32x4.extract_lane(q, 2));
    }
  }
  return best;
}

// Four sums side by side: one after the other they would wait for each addition.
function sixteenMiddles(from: usize, out: usize): void {
  let a: v128 = f32x4.splat(0), b: v128 = f32x4.splat(0), c: v128 = f32x4.splat(0), d: v128 = f32x4.splat(0);
  let left = from + ((PAIRS - 1) << 2);
  let right = from + (PAIRS << 2);
  for (let k = 0; k < PAIRS; k++) {
    const tap = v128.load32_splat(middleTaps + (<usize>k << 2));
    a = f32x4.add(a, f32x4.mul(tap, f32x4.add(v128.load(left), v128.load(right))));
    b = f32x4.add(b, f32x4.mul(tap, f32x4.add(v128.load(left, 16), v128.load(right, 16))));
    c = f32x4.add(c, f32x4.mul(tap, f32x4.add(v128.load(left, 32), v128.load(right, 32))));
    d = f32x4.add(d, f32x4.mul(tap, f32x4.add(v128.load(left, 48), v128.load(right, 48))));
    left -= 4;
    right += 4;
  }
  v128.store(out, a);
  v128.store(out, b, 16);
  v128.store(out, c, 32);
  v128.store(out, d, 48);
}

/** Larger of the two quarters of four samples. `x`: two samples before the first, `m`: two middles before it. */
function quarters(x: usize, m: usize): v128 {
  const x0 = v128.load(x), x1 = v128.load(x, 4), x2 = v128.load(x, 8), x3 = v128.load(x, 12), x4 = v128.load(x, 16), x5 = v128.load(x, 20);
  const m0 = v128.load(m), m1 = v128.load(m, 4), m2 = v128.load(m, 8), m3 = v128.load(m, 12), m4 = v128.load(m, 16);
  const c0 = v128.load32_splat(fineTaps), c1 = v128.load32_splat(fineTaps, 4), c2 = v128.load32_splat(fineTaps, 8);
  const c3 = v128.load32_splat(fineTaps, 12), c4 = v128.load32_splat(fineTaps, 16);
  let q1 = f32x4.mul(c0, f32x4.add(x2, m2));
  q1 = f32x4.add(q1, f32x4.mul(c1, f32x4.add(m1, x3)));
  q1 = f32x4.add(q1, f32x4.mul(c2, f32x4.add(x1, m3)));
  q1 = f32x4.add(q1, f32x4.mul(c3, f32x4.add(m0, x4)));
  q1 = f32x4.add(q1, f32x4.mul(c4, f32x4.add(x0, m4)));
  let q3 = f32x4.mul(c0, f32x4.add(m2, x3));
  q3 = f32x4.add(q3, f32x4.mul(c1, f32x4.add(x2, m3)));
  q3 = f32x4.add(q3, f32x4.mul(c2, f32x4.add(m1, x4)));
  q3 = f32x4.add(q3, f32x4.mul(c3, f32x4.add(x1, m4)));
  q3 = f32x4.add(q3, f32x4.mul(c4, f32x4.add(m0, x5)));
  return f32x4.pmax(f32x4.abs(q1), f32x4.abs(q3));
}
