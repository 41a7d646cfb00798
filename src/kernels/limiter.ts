// Look-ahead limiter on sample peaks or true peaks. Per sample: wanted gain = ceiling / peak; instant fall
// and exponential recovery; minimum over a window; mean over a shorter one. The mean of minima is at or
// below the wanted gain of the sample that leaves the delay line, so the ceiling is never passed. Gains are
// integers of 30 bits, so the running mean stays exact. Every channel has a gain of its own; linked, the
// loudest channel decides for all.
//
// True peaks: the wanted gain counts the three points between two samples as well (truepeak.ts), and is
// held over the interpolator's whole length, so that all samples which make up a point share its gain.
import { TRUEPEAK_HISTORY, truePeakEnvelope, truePeakNorm } from './truepeak';

// Shared: {ceiling f32 @0, recovery f32 @4, hold window i32 @8, mean window i32 @12, channels i32 @16,
//  delay i32 @20, true i32 @24, linked i32 @28, equal i32 @32, position i32 @36, mean index i32 @40,
//  ring i32 @44, lowest gain i32 @48, delays u32 @52, peaks u32 @56 (64 f32), history u32 @60, scratch u32 @64,
//  ceiling step f32 @68, ceiling glide left i32 @72, share on f32 @76, its step f32 @80, its glide left i32 @84,
//  samples until it holds for sure i32 @88, has run i32 @92}
// Per channel from @96: {gain i32 @0, running i32 @4, idle i32 @8, sum i64 @16, current u32 @24,
//  suffix u32 @28, minima u32 @32}
const SHARED: usize = 96;
const CHANNEL: usize = 40;
const ONE: i32 = 1 << 30;
/** Samples looked at together. */
const PART: i32 = 64;

export function limiterBytes(channels: i32): i32 {
  return <i32>(SHARED + <usize>channels * CHANNEL);
}

// @ts-ignore: decorator
@inline
function computer(p: usize, c: i32): usize {
  return p + SHARED + <usize>c * CHANNEL;
}

/**
 * Its gain falls over `window` samples (>= 2). `truePeaks` != 0 limits true peaks. `delay`: samples that the sound waits,
 * one less than the window, and the interpolator's history more for true peaks.
 */
export function limiterInit(p: usize, channels: i32, window: i32, delay: i32, truePeaks: i32): void {
  const hold = delay + 1;
  store<f32>(p, 1, 0);
  store<f32>(p, 1, 76);
  store<i32>(p, hold, 8);
  store<i32>(p, window, 12);
  store<i32>(p, channels, 16);
  store<i32>(p, delay, 20);
  store<i32>(p, truePeaks, 24);
  store<i32>(p, 1, 28);
  store<i32>(p, 1, 32);
  store<i32>(p, ONE, 48);
  store<u32>(p, <u32>zeroed((delay * channels) << 2), 52);
  store<u32>(p, <u32>zeroed(PART << 2), 56);
  store<u32>(p, <u32>zeroed((TRUEPEAK_HISTORY * channels) << 2), 60);
  store<u32>(p, <u32>zeroed((PART + TRUEPEAK_HISTORY + 1 + PART) << 2), 64);
  for (let c = 0; c < channels; c++) {
    const d = computer(p, c);
    store<i32>(d, ONE, 0);
    store<i32>(d, ONE, 4);
    store<i32>(d, 4 * (hold + window), 8);
    store<i64>(d, <i64>window * <i64>ONE, 16);
    store<u32>(d, <u32>ones(hold), 24);
    store<u32>(d, <u32>ones(hold + 1), 28);
    store<u32>(d, <u32>ones(window), 32);
  }
}

function zeroed(bytes: i32): usize {
  const q = heap.alloc(bytes + 16);
  memory.fill(q, 0, bytes + 16);
  return q;
}

function ones(n: i32): usize {
  const q = heap.alloc(n << 2);
  for (let i = 0; i < n; i++) store<i32>(q + (<usize>i << 2), ONE);
  return q;
}

export function limiterFree(p: usize): void {
  heap.free(load<u32>(p, 52));
  heap.free(load<u32>(p, 56));
  heap.free(load<u32>(p, 60));
  heap.free(load<u32>(p, 64));
  for (let c = 0; c < load<i32>(p, 16); c++) {
    const d = computer(p, c);
    heap.free(load<u32>(d, 24));
    heap.free(load<u32>(d, 28));
    heap.free(load<u32>(d, 32));
  }
}

/**
 * Ceiling in dB, release in seconds (63 % of the way back to unity); `linked` != 0: one gain for all; `on`
 * 0: only the delay. Changes take 20 ms; until then, and until what was in the delay line has passed, a
 * sample may still be over the new ceiling.
 */
export function limiterSet(p: usize, rate: f64, ceilingDb: f64, rel: f64, linked: i32, on: i32): void {
  const glide = load<i32>(p, 92) ? <i32>(0.02 * rate) : 0;
  const ceiling = <f32>NativeMath.pow(10.0, ceilingDb / 20.0);
  const was = ceilingAt(p, 0);
  if (ceiling != load<f32>(p, 0)) {
    store<f32>(p, ceiling, 0);
    store<i32>(p, glide, 72);
    if (glide) store<f32>(p, (ceiling - was) / <f32>glide, 68);
    store<i32>(p, glide + load<i32>(p, 20) + load<i32>(p, 8), 88);
  }
  const share: f32 = on ? 1 : 0;
  if (share != load<f32>(p, 76)) {
    const from = shareAt(p, 0);
    store<f32>(p, share, 76);
    store<i32>(p, glide, 84);
    if (glide) store<f32>(p, (share - from) / <f32>glide, 80);
    store<i32>(p, glide + load<i32>(p, 20) + load<i32>(p, 8), 88);
  }
  if (!glide) store<i32>(p, 0, 88);
  store<f32>(p, <f32>(1.0 - NativeMath.exp(-1.0 / (max(rel, 0.001) * rate))), 4);
  if (load<i32>(p, 28) == linked) return;
  store<i32>(p, linked, 28);
  // Channels that shared a gain go on from it, each alone.
  if (load<i32>(p, 32)) for (let c = 1; c < load<i32>(p, 16); c++) copyComputer(p, computer(p, c), computer(p, 0));
  store<i32>(p, 0, 32);
}

// Ceiling and share of the limiting `k` samples from now.
// @ts-ignore: decorator
@inline
function ceilingAt(p: usize, k: i32): f32 {
  const left = load<i32>(p, 72) - k;
  return left > 0 ? load<f32>(p, 0) - load<f32>(p, 68) * <f32>left : load<f32>(p, 0);
}

// @ts-ignore: decorator
@inline
function shareAt(p: usize, k: i32): f32 {
  const left = load<i32>(p, 84) - k;
  return left > 0 ? load<f32>(p, 76) - load<f32>(p, 80) * <f32>left : load<f32>(p, 76);
}

function pass(p: usize, samples: i32): void {
  store<i32>(p, max(0, load<i32>(p, 72) - samples), 72);
  store<i32>(p, max(0, load<i32>(p, 84) - samples), 84);
  store<i32>(p, max(0, load<i32>(p, 88) - samples), 88);
}

function copyComputer(p: usize, to: usize, from: usize): void {
  memory.copy(to, from, 24);
  const hold = <usize>load<i32>(p, 8) << 2;
  memory.copy(load<u32>(to, 24), load<u32>(from, 24), hold);
  memory.copy(load<u32>(to, 28), load<u32>(from, 28), hold + 4);
  memory.copy(load<u32>(to, 32), load<u32>(from, 32), <usize>load<i32>(p, 12) << 2);
}

/** Limits `n` samples of all channels in place. */
export function limiterRun(p: usize, chans: usize, n: i32): void {
  run(p, chans, n, 0);
}

/**
 * The detector of a linked group: limits the sum in place, all channels by one gain, and writes that gain, as it is
 * applied to the sample that leaves the delay, to `curve` (n f32).
 */
export function limiterDetect(p: usize, chans: usize, n: i32, curve: usize): void {
  run(p, chans, n, curve);
}

/** The applier of a linked group: multiplies by a curve; the sound must have been delayed as the detector delays. */
export function applyCurve(buf: usize, curve: usize, n: i32): void {
  const end = n & ~3;
  let i = 0;
  for (; i < end; i += 4) {
    const at = <usize>i << 2;
    v128.store(buf + at, f32x4.mul(v128.load(buf + at), v128.load(curve + at)));
  }
  for (; i < n; i++) {
    const at = <usize>i << 2;
    store<f32>(buf + at, load<f32>(buf + at) * load<f32>(curve + at));
  }
}

function run(p: usize, chans: usize, n: i32, curve: usize): void {
  const channels = load<i32>(p, 16);
  const delay = load<i32>(p, 20);
  const rests = 2 * (load<i32>(p, 8) + load<i32>(p, 12));
  store<i32>(p, 1, 92);
  let i = 0;
  while (i < n) {
    const part = min(min(PART, n - i), delay);
    const still = load<i32>(p, 88) == 0;
    if (still && (load<f32>(p, 76) == 0 || (idle(p, channels, rests) && quiet(p, chans, channels, i, part)))) {
      passThrough(p, chans, channels, delay, i, part);
      if (curve) for (let k = i; k < i + part; k++) store<f32>(curve + (<usize>k << 2), 1);
    } else if (load<i32>(p, 32)) {
      const peaks = peaksOf(p, chans, 0, channels, i, part);
      for (let k = 0; k < part; k++) step(p, computer(p, 0), load<f32>(peaks + (<usize>k << 2)), chans, 0, channels, i + k, k, curve);
    } else {
      each(p, chans, channels, i, part, curve);
    }
    if (load<i32>(p, 24)) remember(p, channels);
    pass(p, part);
    i += part;
  }
}

// @ts-ignore: decorator
@inline
function idle(p: usize, channels: i32, rests: i32): bool {
  if (load<i32>(computer(p, 0), 8) < rests) return false;
  if (load<i32>(p, 32)) return true;
  for (let c = 1; c < channels; c++) if (load<i32>(computer(p, c), 8) < rests) return false;
  // All stand at unity: from here on one gain serves all, if they are linked.
  if (load<i32>(p, 28)) store<i32>(p, 1, 32);
  return true;
}

// Channels with gains of their own; linked, all of them follow the loudest.
function each(p: usize, chans: usize, channels: i32, from: i32, part: i32, curve: usize): void {
  const pos = load<i32>(p, 36), m = load<i32>(p, 40), ring = load<i32>(p, 44);
  const linked = load<i32>(p, 28) != 0;
  for (let c = 0; c < channels; c++) {
    // The delay lines move in place: before a channel is written its peaks must be known.
    const peaks = linked ? (c == 0 ? peaksOf(p, chans, 0, channels, from, part) : <usize>load<u32>(p, 56)) : peaksOf(p, chans, c, 1, from, part);
    store<i32>(p, pos, 36);
    store<i32>(p, m, 40);
    store<i32>(p, ring, 44);
    for (let k = 0; k < part; k++) step(p, computer(p, c), load<f32>(peaks + (<usize>k << 2)), chans, c, 1, from + k, k, curve);
  }
}

/** Largest peak of each of `part` samples over `count` channels from `first`, as f32. */
function peaksOf(p: usize, chans: usize, first: i32, count: i32, from: i32, part: i32): usize {
  const out = <usize>load<u32>(p, 56);
  memory.fill(out, 0, PART << 2);
  const truePeaks = load<i32>(p, 24) != 0;
  const scratch = <usize>load<u32>(p, 64);
  for (let c = first; c < first + count; c++) {
    const buf = <usize>load<u32>(chans + (<usize>c << 2)) + (<usize>from << 2);
    if (truePeaks) {
      memory.copy(scratch, historyOf(p, c), TRUEPEAK_HISTORY << 2);
      memory.copy(scratch + (TRUEPEAK_HISTORY << 2), buf, <usize>part << 2);
      truePeakEnvelope(scratch, part, load<f32>(p, 0), out);
    } else {
      for (let k = 0; k < part; k++) {
        const at = <usize>k << 2;
        store<f32>(out + at, max(load<f32>(out + at), abs(load<f32>(buf + at))));
      }
    }
  }
  return out;
}

// @ts-ignore: decorator
@inline
function historyOf(p: usize, c: i32): usize {
  return <usize>load<u32>(p, 60) + ((<usize>c * TRUEPEAK_HISTORY) << 2);
}

// The last samples that came in stand at the end of the delay lines by now.
function remember(p: usize, channels: i32): void {
  const delay = load<i32>(p, 20);
  const ring = load<i32>(p, 44);
  const delays = <usize>load<u32>(p, 52);
  for (let c = 0; c < channels; c++) {
    const line = delays + ((<usize>c * delay) << 2);
    const h = historyOf(p, c);
    for (let k = 0; k < TRUEPEAK_HISTORY; k++) {
      let at = ring - TRUEPEAK_HISTORY + k;
      if (at < 0) at += delay;
      store<f32>(h + (<usize>k << 2), load<f32>(line + (<usize>at << 2)));
    }
  }
}

function quiet(p: usize, chans: usize, channels: i32, from: i32, n: i32): bool {
  let top: v128 = f32x4.splat(0);
  let rest: f32 = 0;
  const end = n & ~3;
  const truePeaks = load<i32>(p, 24) != 0;
  for (let c = 0; c < channels; c++) {
    const buf = <usize>load<u32>(chans + (<usize>c << 2)) + (<usize>from << 2);
    let i = 0;
    for (; i < end; i += 4) top = f32x4.pmax(top, f32x4.abs(v128.load(buf + (<usize>i << 2))));
    for (; i < n; i++) rest = max(rest, abs(load<f32>(buf + (<usize>i << 2))));
    if (truePeaks) {
      const h = historyOf(p, c);
      for (let k = 0; k < TRUEPEAK_HISTORY; k++) rest = max(rest, abs(load<f32>(h + (<usize>k << 2))));
    }
  }
  const a = max(f32x4.extract_lane(top, 0), f32x4.extract_lane(top, 1));
  const b = max(f32x4.extract_lane(top, 2), f32x4.extract_lane(top, 3));
  const most = max(max(a, b), rest);
  return (truePeaks ? most * truePeakNorm() : most) <= load<f32>(p, 0);
}

// Gain has been exactly one for long enough: only the delay lines move.
function passThrough(p: usize, chans: usize, channels: i32, delay: i32, from: i32, n: i32): void {
  const ring = load<i32>(p, 44);
  const delays = <usize>load<u32>(p, 52);
  const first = min(n, delay - ring);
  for (let c = 0; c < channels; c++) {
    const buf = <usize>load<u32>(chans + (<usize>c << 2)) + (<usize>from << 2);
    const line = delays + ((<usize>c * delay) << 2);
    exchange(buf, line + (<usize>ring << 2), first);
    if (first < n) exchange(buf + (<usize>first << 2), line, n - first);
  }
  store<i32>(p, (ring + n) % delay, 44);
}

function exchange(a: usize, b: usize, n: i32): void {
  const end = n & ~3;
  let i = 0;
  for (; i < end; i += 4) {
    const at = <usize>i << 2;
    const v = v128.load(a + at);
    v128.store(a + at, v128.load(b + at));
    v128.store(b + at, v);
  }
  for (; i < n; i++) {
    const at = <usize>i << 2;
    const v = load<f32>(a + at);
    store<f32>(a + at, load<f32>(b + at));
    store<f32>(b + at, v);
  }
}

// One sample of one gain, applied to `count` channels from `first`; `k`: its place in the part.
function step(p: usize, d: usize, peak: f32, chans: usize, first: i32, count: i32, at: i32, k: i32, curve: usize): void {
  const hold = load<i32>(p, 8);
  const window = load<i32>(p, 12);
  const delay = load<i32>(p, 20);
  const ceiling = ceilingAt(p, k);
  let gain = load<i32>(d, 0);
  gain += <i32>(<f32>(ONE - gain) * load<f32>(p, 4));
  if (gain > ONE - 4096) gain = ONE;
  if (peak > ceiling) gain = min(gain, <i32>(<f64>ONE * (<f64>ceiling / <f64>peak)));
  store<i32>(d, gain, 0);

  // Minimum of the last `hold` wanted gains: the prefix of this stretch against the suffix of the last.
  const current = <usize>load<u32>(d, 24);
  const suffix = <usize>load<u32>(d, 28);
  const pos = load<i32>(p, 36);
  const running = min(pos == 0 ? ONE : load<i32>(d, 4), gain);
  store<i32>(current + (<usize>pos << 2), gain);
  const low = min(running, load<i32>(suffix + (<usize>(pos + 1) << 2)));
  if (pos + 1 == hold) {
    let tail = ONE;
    for (let j = hold - 1; j >= 0; j--) {
      tail = min(tail, load<i32>(current + (<usize>j << 2)));
      store<i32>(suffix + (<usize>j << 2), tail);
    }
    store<i32>(p, 0, 36);
  } else {
    store<i32>(p, pos + 1, 36);
  }
  store<i32>(d, running, 4);

  const minima = <usize>load<u32>(d, 32);
  const m = load<i32>(p, 40);
  const sum = load<i64>(d, 16) + <i64>low - <i64>load<i32>(minima + (<usize>m << 2));
  store<i32>(minima + (<usize>m << 2), low);
  store<i32>(p, m + 1 == window ? 0 : m + 1, 40);
  store<i64>(d, sum, 16);
  const rests = sum == <i64>window * <i64>ONE && gain == ONE;
  store<i32>(d, rests ? min(load<i32>(d, 8) + 1, 4 * (hold + window)) : 0, 8);

  const share = shareAt(p, k);
  const full = rests ? <f32>1 : <f32>(<f64>sum / (<f64>window * <f64>ONE));
  const applied = share == 1 ? full : <f32>1 + share * (full - <f32>1);
  if (curve) store<f32>(curve + (<usize>at << 2), applied);
  const sure = load<i32>(p, 88) <= k;
  const lowest = <i32>(sum / <i64>window);
  if (lowest < load<i32>(p, 48)) store<i32>(p, lowest, 48);
  const ring = load<i32>(p, 44);
  const delays = <usize>load<u32>(p, 52);
  for (let c = first; c < first + count; c++) {
    const slot = <usize>load<u32>(chans + (<usize>c << 2)) + (<usize>at << 2);
    const line = delays + ((<usize>(c * delay + ring)) << 2);
    const y = load<f32>(line) * applied;
    store<f32>(line, load<f32>(slot));
    store<f32>(slot, sure ? min(max(y, -ceiling), ceiling) : y);
  }
  store<i32>(p, ring + 1 == delay ? 0 : ring + 1, 44);
}

/** Deepest gain reduction (dB, <= 0) since the last call. */
export function limiterReduction(p: usize): f32 {
  const low = load<i32>(p, 48);
  const count = load<i32>(p, 32) ? 1 : load<i32>(p, 16);
  let now = ONE;
  for (let c = 0; c < count; c++) now = min(now, <i32>(load<i64>(computer(p, c), 16) / <i64>load<i32>(p, 12)));
  store<i32>(p, now, 48);
  return <f32>(20.0 * NativeMath.log10(<f64>low / <f64>ONE));
}
