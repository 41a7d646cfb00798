// A gain that glides: {current f64, target f64, step f64, remaining i32}. The value at a sample depends
// on the samples left, not on the block it falls into, so any block size gives the same bits.
export const RAMP_BYTES: i32 = 32;

export function rampInit(ramp: usize, gain: f64): void {
  store<f64>(ramp, gain, 0);
  store<f64>(ramp, gain, 8);
  store<f64>(ramp, 0, 16);
  store<i32>(ramp, 0, 24);
}

/** Heads for `gain`, arriving after `samples` samples (0: at once). */
export function rampTo(ramp: usize, gain: f64, samples: i32): void {
  const now = rampValue(ramp);
  if (load<f64>(ramp, 8) == gain) return;
  if (samples <= 0 || now == gain) {
    rampInit(ramp, gain);
    return;
  }
  store<f64>(ramp, now, 0);
  store<f64>(ramp, gain, 8);
  store<f64>(ramp, (gain - now) / <f64>samples, 16);
  store<i32>(ramp, samples, 24);
}

export function rampValue(ramp: usize): f64 {
  return load<f64>(ramp, 8) - load<f64>(ramp, 16) * <f64>load<i32>(ramp, 24);
}

// Runs the gliding part; returns how many samples it covered.
// @ts-ignore: decorator
@inline
function glide(ramp: usize, n: i32): i32 {
  const remaining = load<i32>(ramp, 24);
  return remaining < n ? remaining : n;
}

/** dst += src * ramp. */
export function mixRamp(ramp: usize, src: usize, dst: usize, n: i32): void {
  const k = glide(ramp, n);
  const target = load<f64>(ramp, 8);
  if (k > 0) {
    const step = load<f64>(ramp, 16);
    const remaining = load<i32>(ramp, 24);
    for (let i = 0; i < k; i++) {
      const g = <f32>(target - step * <f64>(remaining - i));
      const at = <usize>i << 2;
      store<f32>(dst + at, load<f32>(dst + at) + load<f32>(src + at) * g);
    }
    store<i32>(ramp, remaining - k, 24);
  }
  if (k < n) mix(src + (<usize>k << 2), dst + (<usize>k << 2), n - k, target);
}

/** buf *= ramp. */
export function scaleRamp(ramp: usize, buf: usize, n: i32): void {
  const k = glide(ramp, n);
  const target = load<f64>(ramp, 8);
  if (k > 0) {
    const step = load<f64>(ramp, 16);
    const remaining = load<i32>(ramp, 24);
    for (let i = 0; i < k; i++) {
      const at = <usize>i << 2;
      store<f32>(buf + at, load<f32>(buf + at) * <f32>(target - step * <f64>(remaining - i)));
    }
    store<i32>(ramp, remaining - k, 24);
  }
  if (k < n) scale(buf + (<usize>k << 2), n - k, target);
}

/** dst += src * gain. */
export function mix(src: usize, dst: usize, n: i32, gain: f64): void {
  if (gain == 0.0) return;
  const g = <f32>gain;
  const v = f32x4.splat(g);
  const end = n & ~3;
  let i = 0;
  for (; i < end; i += 4) {
    const at = <usize>i << 2;
    v128.store(dst + at, f32x4.add(v128.load(dst + at), f32x4.mul(v128.load(src + at), v)));
  }
  for (; i < n; i++) {
    const at = <usize>i << 2;
    store<f32>(dst + at, load<f32>(dst + at) + load<f32>(src + at) * g);
  }
}

/** buf *= gain. */
export function scale(buf: usize, n: i32, gain: f64): void {
  if (gain == 1.0) return;
  const g = <f32>gain;
  const v = f32x4.splat(g);
  const end = n & ~3;
  let i = 0;
  for (; i < end; i += 4) {
    const at = <usize>i << 2;
    v128.store(buf + at, f32x4.mul(v128.load(buf + at), v));
  }
  for (; i < n; i++) {
    const at = <usize>i << 2;
    store<f32>(buf + at, load<f32>(buf + at) * g);
  }
}

/** Holds every sample within ±ceiling; returns how many were beyond it. */
export function clip(buf: usize, n: i32, ceiling: f32): i32 {
  let overs = 0;
  for (let i = 0; i < n; i++) {
    const at = buf + (<usize>i << 2);
    const x = load<f32>(at);
    if (abs(x) > ceiling) {
      overs++;
      store<f32>(at, x > 0 ? ceiling : -ceiling);
    }
  }
  return overs;
}
