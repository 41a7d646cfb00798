// Compressor and expander. The level is looked at in hops of 16 samples, counted from the first sample
// ever processed (so block sizes do not matter); the gain glides linearly over the next hop. Every channel
// has a detector and a gain of its own; linked, the loudest channel decides for all.
import { compressorCurve, gateCurve, levelDb, linear } from './dynamicsCurves';

export const HOP: i32 = 16;

const COMPRESS: i32 = 0;

// Shared: {kind i32 @0, threshold f32 @4, ratio @8, knee @12, make-up @16, attack pole @20, release pole
//  @24, range @28, hold hops i32 @32, hysteresis f32 @36, mean-square pole f32 @40, channels i32 @44,
//  phase i32 @48, linked i32 @52, equal i32 @56 (all gains are channel 0's), lowest f32 @60, rms i32 @64,
//  make-up now f32 @68, make-up pole f32 @72, has run i32 @76}
// Per channel from @80: {sum of squares f64 @0, mean square f64 @8, peak f32 @16, reduction f32 @20,
//  gain from f32 @24, gain to f32 @28, held hops i32 @32, open i32 @36}
const SHARED: usize = 80;
const CHANNEL: usize = 48;

/** Bytes of the state for `channels` channels. */
export function dynamicsBytes(channels: i32): i32 {
  return <i32>(SHARED + <usize>channels * CHANNEL);
}

/** `kind`: 0 compressor, 1 expander. */
export function dynamicsInit(p: usize, kind: i32, channels: i32): void {
  store<i32>(p, kind, 0);
  store<f32>(p, 1, 8);
  store<i32>(p, channels, 44);
  store<i32>(p, 1, 52);
  store<i32>(p, 1, 56);
  for (let c = 0; c < channels; c++) {
    store<f32>(at(p, c), 1, 24);
    store<f32>(at(p, c), 1, 28);
  }
}

// @ts-ignore: decorator
@inline
function at(p: usize, c: i32): usize {
  return p + SHARED + <usize>c * CHANNEL;
}

function pole(seconds: f64, hops: f64): f32 {
  return seconds <= 0.0 ? 0 : <f32>NativeMath.exp(-1.0 / (seconds * hops));
}

/**
 * Threshold, knee, make-up in dB; ratio >= 1; attack and release in seconds (63 % of the way). `window`:
 * seconds of the mean-square detector, 0 looks at peaks. `linked` != 0: one gain for all channels.
 */
export function compressorSet(
  p: usize, rate: f64, threshold: f64, ratio: f64, knee: f64, makeup: f64, attack: f64, rel: f64, window: f64, linked: i32,
): void {
  store<f32>(p, <f32>threshold, 4);
  store<f32>(p, <f32>ratio, 8);
  store<f32>(p, <f32>knee, 12);
  store<f32>(p, <f32>makeup, 16);
  if (!load<i32>(p, 76)) store<f32>(p, <f32>makeup, 68);
  const hops = rate / <f64>HOP;
  store<f32>(p, pole(0.01, hops), 72);
  store<f32>(p, pole(attack, hops), 20);
  store<f32>(p, pole(rel, hops), 24);
  store<f32>(p, pole(window, hops), 40);
  store<i32>(p, window > 0.0 ? 1 : 0, 64);
  dynamicsLink(p, linked);
}

/**
 * Threshold and range in dB (range is the most it takes away, <= 0); ratio >= 1; times in seconds. Once
 * open it closes `hysteresis` dB below the threshold.
 */
export function gateSet(
  p: usize, rate: f64, threshold: f64, ratio: f64, range: f64, attack: f64, hold: f64, rel: f64, hysteresis: f64, linked: i32,
): void {
  store<f32>(p, <f32>threshold, 4);
  store<f32>(p, <f32>ratio, 8);
  store<f32>(p, <f32>range, 28);
  const hops = rate / <f64>HOP;
  store<f32>(p, pole(attack, hops), 20);
  store<f32>(p, pole(rel, hops), 24);
  store<i32>(p, <i32>(hold * hops), 32);
  store<f32>(p, <f32>hysteresis, 36);
  dynamicsLink(p, linked);
}

// Unlinked, each channel goes on from the common gain; linked again, the gains meet by their own ballistics.
function dynamicsLink(p: usize, linked: i32): void {
  if (load<i32>(p, 52) == linked) return;
  store<i32>(p, linked, 52);
  if (load<i32>(p, 56)) share(p);
  store<i32>(p, 0, 56);
}

function share(p: usize): void {
  const channels = load<i32>(p, 44);
  for (let c = 1; c < channels; c++) memory.copy(at(p, c), at(p, 0), CHANNEL);
}

/**
 * Processes `n` samples of the channels in `chans` in place. `keys`: what the detectors listen to, one
 * channel per channel or one for all (`keyCount` 1); may be `chans` itself.
 */
export function dynamicsRun(p: usize, chans: usize, keys: usize, keyCount: i32, n: i32): void {
  const channels = load<i32>(p, 44);
  const equal = load<i32>(p, 56);
  store<i32>(p, 1, 76);
  let phase = load<i32>(p, 48);
  let i = 0;
  while (i < n) {
    const part = min(HOP - phase, n - i);
    if (equal) {
      listen(p, at(p, 0), keys, keyCount, i, part);
      const g0 = load<f32>(at(p, 0), 24), g1 = load<f32>(at(p, 0), 28);
      if (g0 != 1 || g1 != 1) {
        for (let c = 0; c < channels; c++) applyHop(<usize>load<u32>(chans + (<usize>c << 2)), i, part, phase, g0, g1);
      }
    } else {
      for (let c = 0; c < channels; c++) {
        const key = keyCount == channels ? c : 0;
        listen(p, at(p, c), keys + (<usize>key << 2), 1, i, part);
        const g0 = load<f32>(at(p, c), 24), g1 = load<f32>(at(p, c), 28);
        if (g0 != 1 || g1 != 1) applyHop(<usize>load<u32>(chans + (<usize>c << 2)), i, part, phase, g0, g1);
      }
    }
    i += part;
    phase += part;
    if (phase == HOP) {
      phase = 0;
      endHop(p, channels, equal != 0);
    }
  }
  store<i32>(p, phase, 48);
}

function endHop(p: usize, channels: i32, equal: bool): void {
  const makeup = load<f32>(p, 16);
  const now = makeup + load<f32>(p, 72) * (load<f32>(p, 68) - makeup);
  store<f32>(p, abs(now - makeup) < <f32>0.0005 ? makeup : now, 68);
  if (equal) {
    nextGain(p, at(p, 0), level(p, at(p, 0)));
    return;
  }
  if (load<i32>(p, 52) == 0) {
    for (let c = 0; c < channels; c++) nextGain(p, at(p, c), level(p, at(p, c)));
    return;
  }
  let loudest: f32 = -1000;
  for (let c = 0; c < channels; c++) loudest = max(loudest, level(p, at(p, c)));
  let same = true;
  for (let c = 0; c < channels; c++) {
    nextGain(p, at(p, c), loudest);
    // A thousandth of a decibel apart counts as met.
    if (abs(load<f32>(at(p, c), 20) - load<f32>(at(p, 0), 20)) > <f32>0.001) same = false;
  }
  if (same) store<i32>(p, 1, 56);
}

// Gathers the loudest of `count` key channels into the detector at `d`.
function listen(p: usize, d: usize, keys: usize, count: i32, from: i32, n: i32): void {
  if (load<i32>(p, 64) == 0) {
    store<f32>(d, max(load<f32>(d, 16), peakOf(keys, count, from, n)), 16);
    return;
  }
  // Sample by sample in f64: the sum does not depend on where a block ends.
  let sum = load<f64>(d);
  for (let i = from; i < from + n; i++) {
    let top = 0.0;
    for (let c = 0; c < count; c++) {
      const x = <f64>load<f32>(<usize>load<u32>(keys + (<usize>c << 2)) + (<usize>i << 2));
      top = max(top, x * x);
    }
    sum += top;
  }
  store<f64>(d, sum);
}

// Level in dB of the hop that ends, by peak or by mean square; the detector starts anew.
function level(p: usize, d: usize): f32 {
  if (load<i32>(p, 64)) {
    const now = load<f64>(d) / <f64>HOP;
    const before = load<f64>(d, 8);
    const mean = now + <f64>load<f32>(p, 40) * (before - now);
    store<f64>(d, mean < 1e-30 ? 0.0 : mean, 8);
    store<f64>(d, 0, 0);
    return mean > 1e-16 ? <f32>0.5 * levelDb(<f32>mean) : -160;
  }
  const peak = load<f32>(d, 16);
  store<f32>(d, 0, 16);
  return peak > <f32>1e-8 ? levelDb(peak) : -160;
}

function nextGain(p: usize, d: usize, db: f32): void {
  const was = load<f32>(d, 20);
  const compress = load<i32>(p, 0) == COMPRESS;
  const want = compress
    ? compressorCurve(db, load<f32>(p, 4), load<f32>(p, 8), load<f32>(p, 12))
    : expand(p, d, db, was);
  const falls = want < was;
  // A compressor attacks downwards, an expander upwards.
  const k = falls == compress ? load<f32>(p, 20) : load<f32>(p, 24);
  let reduction = want + k * (was - want);
  if (reduction > <f32>-0.0001) reduction = 0;
  store<f32>(d, reduction, 20);
  store<f32>(d, load<f32>(d, 28), 24);
  const total = reduction + load<f32>(p, 68);
  store<f32>(d, total == 0 ? <f32>1 : linear(total), 28);
  if (reduction < load<f32>(p, 60)) store<f32>(p, reduction, 60);
}

function expand(p: usize, d: usize, db: f32, was: f32): f32 {
  const threshold = load<f32>(p, 4);
  const closes = threshold - load<f32>(p, 36);
  const open = db >= threshold || (load<i32>(d, 36) != 0 && db >= closes);
  store<i32>(d, open ? 1 : 0, 36);
  const want: f32 = open ? 0 : gateCurve(db, threshold, load<f32>(p, 8), load<f32>(p, 28));
  if (want >= was) {
    store<i32>(d, load<i32>(p, 32), 32);
    return want;
  }
  const held = load<i32>(d, 32);
  if (held <= 0) return want;
  store<i32>(d, held - 1, 32);
  return was;
}

/** Deepest gain reduction (dB, <= 0) since the last call. */
export function dynamicsReduction(p: usize): f32 {
  const low = load<f32>(p, 60);
  const channels = load<i32>(p, 56) ? 1 : load<i32>(p, 44);
  let now: f32 = 0;
  for (let c = 0; c < channels; c++) now = min(now, load<f32>(at(p, c), 20));
  store<f32>(p, now, 60);
  return low;
}

// Largest magnitude over `count` channels of samples [from, from + n).
// @ts-ignore: decorator
@inline
function peakOf(chans: usize, count: i32, from: i32, n: i32): f32 {
  let top: f32 = 0;
  for (let c = 0; c < count; c++) {
    const buf = <usize>load<u32>(chans + (<usize>c << 2)) + (<usize>from << 2);
    if (n == HOP) {
      const v = f32x4.pmax(
        f32x4.pmax(f32x4.abs(v128.load(buf)), f32x4.abs(v128.load(buf, 16))),
        f32x4.pmax(f32x4.abs(v128.load(buf, 32)), f32x4.abs(v128.load(buf, 48))),
      );
      const a = max(f32x4.extract_lane(v, 0), f32x4.extract_lane(v, 1));
      top = max(top, max(a, max(f32x4.extract_lane(v, 2), f32x4.extract_lane(v, 3))));
    } else {
      for (let i = 0; i < n; i++) top = max(top, abs(load<f32>(buf + (<usize>i << 2))));
    }
  }
  return top;
}

// Multiplies samples [from, from + n) by a line from g0 at hop start to g1 at its end.
// @ts-ignore: decorator
@inline
function applyHop(chan: usize, from: i32, n: i32, phase: i32, g0: f32, g1: f32): void {
  const slope = (g1 - g0) / <f32>HOP;
  const buf = chan + (<usize>from << 2);
  const end = n & ~3;
  const g = f32x4.splat(g0);
  const s = f32x4.splat(slope);
  let i = 0;
  for (; i < end; i += 4) {
    const x = buf + (<usize>i << 2);
    const k = f32x4.add(f32x4.splat(<f32>(phase + i + 1)), f32x4(0, 1, 2, 3));
    v128.store(x, f32x4.mul(v128.load(x), f32x4.add(g, f32x4.mul(s, k))));
  }
  for (; i < n; i++) {
    const x = buf + (<usize>i << 2);
    store<f32>(x, load<f32>(x) * (g0 + slope * <f32>(phase + i + 1)));
  }
}
