// Look-ahead limiter on sample peaks, linked over all channels. Per sample: wanted gain = ceiling / peak;
// instant fall and exponential recovery; minimum over a window; mean over the same window. The mean of
// minima over the window is at or below the wanted gain of the sample that leaves the delay line, so the
// ceiling is never passed. Gains are integers of 30 bits, so the running mean stays exact.
//
// {ceiling f32 @0, recovery f32 @4, window i32 @8, channels i32 @12, gain i32 @16, position in window i32
//  @20, running i32 @24 (prefix minimum), idle samples i32 @28, sum i64 @32, ring index i32 @40,
//  mean index i32 @44, lowest gain i32 @48, buffers u32 @52: current, @56: suffix, @60: minima, @64: delays}
export const LIMITER_BYTES: i32 = 80;
const ONE: i32 = 1 << 30;

/** `window` samples of look-ahead (>= 2); the delay is window - 1 samples. */
export function limiterInit(p: usize, channels: i32, window: i32): void {
  store<i32>(p, window, 8);
  store<i32>(p, channels, 12);
  const current = heap.alloc(window << 2);
  const suffix = heap.alloc((window + 1) << 2);
  const minima = heap.alloc(window << 2);
  const bytes = ((window - 1) * channels) << 2;
  const delays = heap.alloc(bytes + 16);
  memory.fill(delays, 0, bytes + 16);
  for (let i = 0; i < window; i++) {
    store<i32>(current + (i << 2), ONE);
    store<i32>(suffix + (i << 2), ONE);
    store<i32>(minima + (i << 2), ONE);
  }
  store<i32>(suffix + (window << 2), ONE);
  store<u32>(p, <u32>current, 52);
  store<u32>(p, <u32>suffix, 56);
  store<u32>(p, <u32>minima, 60);
  store<u32>(p, <u32>delays, 64);
  store<i32>(p, ONE, 16);
  store<i32>(p, ONE, 24);
  store<i32>(p, 4 * window, 28);
  store<i64>(p, <i64>window * <i64>ONE, 32);
  store<i32>(p, ONE, 48);
  store<f32>(p, 1, 0);
}

export function limiterFree(p: usize): void {
  heap.free(load<u32>(p, 52));
  heap.free(load<u32>(p, 56));
  heap.free(load<u32>(p, 60));
  heap.free(load<u32>(p, 64));
}

/** Ceiling in dBFS, release in seconds (63 % of the way back to unity). */
export function limiterSet(p: usize, rate: f64, ceilingDb: f64, rel: f64): void {
  store<f32>(p, <f32>NativeMath.pow(10.0, ceilingDb / 20.0), 0);
  store<f32>(p, <f32>(1.0 - NativeMath.exp(-1.0 / (max(rel, 0.001) * rate))), 4);
}

export function limiterRun(p: usize, chans: usize, n: i32): void {
  const channels = load<i32>(p, 12);
  const delay = load<i32>(p, 8) - 1;
  const ceiling = load<f32>(p, 0);
  let i = 0;
  while (i < n) {
    const part = min(min(64, n - i), delay);
    if (load<i32>(p, 28) >= 2 * (delay + 1) && quiet(chans, channels, i, part, ceiling)) {
      passThrough(p, chans, channels, delay, i, part);
    } else {
      for (let k = 0; k < part; k++) step(p, chans, channels, delay, i + k, ceiling);
    }
    i += part;
  }
}

function quiet(chans: usize, channels: i32, from: i32, n: i32, ceiling: f32): bool {
  let top: v128 = f32x4.splat(0);
  let rest: f32 = 0;
  const end = n & ~3;
  for (let c = 0; c < channels; c++) {
    const buf = <usize>load<u32>(chans + (<usize>c << 2)) + (<usize>from << 2);
    let i = 0;
    for (; i < end; i += 4) top = f32x4.max(top, f32x4.abs(v128.load(buf + (<usize>i << 2))));
    for (; i < n; i++) rest = max(rest, abs(load<f32>(buf + (<usize>i << 2))));
  }
  const a = max(f32x4.extract_lane(top, 0), f32x4.extract_lane(top, 1));
  const b = max(f32x4.extract_lane(top, 2), f32x4.extract_lane(top, 3));
  return max(max(a, b), rest) <= ceiling;
}

// Gain has been exactly one for long enough: only the delay lines move.
function passThrough(p: usize, chans: usize, channels: i32, delay: i32, from: i32, n: i32): void {
  const ring = load<i32>(p, 40);
  const delays = <usize>load<u32>(p, 64);
  const first = min(n, delay - ring);
  for (let c = 0; c < channels; c++) {
    const buf = <usize>load<u32>(chans + (<usize>c << 2)) + (<usize>from << 2);
    const line = delays + ((<usize>c * delay) << 2);
    exchange(buf, line + (<usize>ring << 2), first);
    if (first < n) exchange(buf + (<usize>first << 2), line, n - first);
  }
  store<i32>(p, (ring + n) % delay, 40);
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

function step(p: usize, chans: usize, channels: i32, delay: i32, at: i32, ceiling: f32): void {
  const window = delay + 1;
  let peak: f32 = 0;
  for (let c = 0; c < channels; c++) {
    const buf = <usize>load<u32>(chans + (<usize>c << 2));
    peak = max(peak, abs(load<f32>(buf + (<usize>at << 2))));
  }
  let gain = load<i32>(p, 16);
  gain += <i32>(<f32>(ONE - gain) * load<f32>(p, 4));
  if (gain > ONE - 4096) gain = ONE;
  if (peak > ceiling) gain = min(gain, <i32>(<f64>ONE * (<f64>ceiling / <f64>peak)));
  store<i32>(p, gain, 16);

  // Minimum of the last `window` wanted gains: the prefix of this stretch against the suffix of the last.
  const current = <usize>load<u32>(p, 52);
  const suffix = <usize>load<u32>(p, 56);
  const pos = load<i32>(p, 20);
  const running = min(pos == 0 ? ONE : load<i32>(p, 24), gain);
  store<i32>(current + (<usize>pos << 2), gain);
  const low = min(running, load<i32>(suffix + (<usize>(pos + 1) << 2)));
  if (pos + 1 == window) {
    let tail = ONE;
    for (let k = window - 1; k >= 0; k--) {
      tail = min(tail, load<i32>(current + (<usize>k << 2)));
      store<i32>(suffix + (<usize>k << 2), tail);
    }
    store<i32>(p, 0, 20);
  } else {
    store<i32>(p, pos + 1, 20);
  }
  store<i32>(p, running, 24);

  const minima = <usize>load<u32>(p, 60);
  const m = load<i32>(p, 44);
  const sum = load<i64>(p, 32) + <i64>low - <i64>load<i32>(minima + (<usize>m << 2));
  store<i32>(minima + (<usize>m << 2), low);
  store<i32>(p, m + 1 == window ? 0 : m + 1, 44);
  store<i64>(p, sum, 32);
  const idle = sum == <i64>window * <i64>ONE && gain == ONE;
  store<i32>(p, idle ? min(load<i32>(p, 28) + 1, 4 * window) : 0, 28);

  const applied = idle ? <f32>1 : <f32>(<f64>sum / (<f64>window * <f64>ONE));
  const lowest = <i32>(sum / <i64>window);
  if (lowest < load<i32>(p, 48)) store<i32>(p, lowest, 48);
  const ring = load<i32>(p, 40);
  const delays = <usize>load<u32>(p, 64);
  for (let c = 0; c < channels; c++) {
    const slot = <usize>load<u32>(chans + (<usize>c << 2)) + (<usize>at << 2);
    const line = delays + ((<usize>(c * delay + ring)) << 2);
    const y = load<f32>(line) * applied;
    store<f32>(line, load<f32>(slot));
    store<f32>(slot, min(max(y, -ceiling), ceiling));
  }
  store<i32>(p, ring + 1 == delay ? 0 : ring + 1, 40);
}

/** Deepest gain reduction (dB, <= 0) since the last call. */
export function limiterReduction(p: usize): f32 {
  const low = load<i32>(p, 48);
  store<i32>(p, <i32>(load<i64>(p, 32) / <i64>load<i32>(p, 8)), 48);
  return <f32>(20.0 * NativeMath.log10(<f64>low / <f64>ONE));
}
