// K-weighting and mean squares of ITU-R BS.1770. The state holds two sections for channels taken in
// pairs, two f64 lanes each:
// {hop i32 @0, phase i32 @4, channels i32 @8, coefficients 10 f64 @16, weights u32 @96 (f64 each),
//  states u32 @100: per pair 4 v128, 1 v128 of energy, awake i32}
export const LOUDNESS_BYTES: i32 = 112;
const PAIR: i32 = 96;
const AWAKE: usize = 80;

/** `hop`: samples per stretch (100 ms). `weights`: f64 per channel, 0 leaves a channel out. */
export function loudnessInit(p: usize, rate: f64, channels: i32, hop: i32, weights: usize): void {
  store<i32>(p, hop, 0);
  store<i32>(p, channels, 8);
  designK(p + 16, rate);
  const pairs = (channels + 1) >> 1;
  const w = heap.alloc((pairs * 2) << 3);
  memory.fill(w, 0, (pairs * 2) << 3);
  memory.copy(w, weights, channels << 3);
  store<u32>(p, <u32>w, 96);
  const s = heap.alloc(pairs * PAIR);
  memory.fill(s, 0, pairs * PAIR);
  store<u32>(p, <u32>s, 100);
}

export function loudnessFree(p: usize): void {
  heap.free(load<u32>(p, 96));
  heap.free(load<u32>(p, 100));
}

/** Forgets all sound; the next sample starts a new stretch. */
export function loudnessReset(p: usize): void {
  memory.fill(load<u32>(p, 100), 0, ((load<i32>(p, 8) + 1) >> 1) * PAIR);
  store<i32>(p, 0, 4);
}

/**
 * The two K-weighting sections at any rate: a shelf and a high-pass whose analogue prototypes give the
 * coefficients printed in BS.1770 at 48 kHz (prototype values: from memory of open implementations; the
 * test compares with the printed ones).
 */
export function designK(out: usize, rate: f64): void {
  const PI: f64 = 3.141592653589793;
  let k = NativeMath.tan((PI * 1681.974450955533) / rate);
  const q: f64 = 0.7071752369554196;
  const vh = NativeMath.pow(10.0, 3.999843853973347 / 20.0);
  const vb = NativeMath.pow(vh, 0.4996667741545416);
  let a0 = 1.0 + k / q + k * k;
  store<f64>(out, (vh + (vb * k) / q + k * k) / a0, 0);
  store<f64>(out, (2.0 * (k * k - vh)) / a0, 8);
  store<f64>(out, (vh - (vb * k) / q + k * k) / a0, 16);
  store<f64>(out, (2.0 * (k * k - 1.0)) / a0, 24);
  store<f64>(out, (1.0 - k / q + k * k) / a0, 32);
  k = NativeMath.tan((PI * 38.13547087602444) / rate);
  const q2: f64 = 0.5003270373238773;
  a0 = 1.0 + k / q2 + k * k;
  store<f64>(out, 1.0, 40);
  store<f64>(out, -2.0, 48);
  store<f64>(out, 1.0, 56);
  store<f64>(out, (2.0 * (k * k - 1.0)) / a0, 64);
  store<f64>(out, (1.0 - k / q2 + k * k) / a0, 72);
}

/** Takes `n` samples; writes the weighted mean square of each finished stretch; returns their number. */
export function loudnessRun(p: usize, chans: usize, n: i32, out: usize): i32 {
  const hop = load<i32>(p, 0);
  const channels = load<i32>(p, 8);
  const weights = <usize>load<u32>(p, 96);
  const states = <usize>load<u32>(p, 100);
  let phase = load<i32>(p, 4);
  let done = 0;
  let i = 0;
  while (i < n) {
    const part = min(hop - phase, n - i);
    for (let c = 0; c < channels; c += 2) {
      if (load<f64>(weights + (<usize>c << 3)) == 0.0 && load<f64>(weights + (<usize>(c + 1) << 3)) == 0.0) continue;
      const a = <usize>load<u32>(chans + (<usize>c << 2));
      const b = c + 1 < channels ? <usize>load<u32>(chans + (<usize>(c + 1) << 2)) : a;
      const state = states + (c >> 1) * PAIR;
      // A pair that never sounded rests: many channels of a wide stem stay empty.
      if (load<i32>(state, AWAKE) == 0) {
        if (silent(a + (<usize>i << 2), part) && silent(b + (<usize>i << 2), part)) continue;
        store<i32>(state, 1, AWAKE);
      }
      pair(p, state, a + (<usize>i << 2), b + (<usize>i << 2), part);
    }
    i += part;
    phase += part;
    if (phase == hop) {
      let sum = 0.0;
      for (let c = 0; c < channels; c++) {
        const energy = states + (c >> 1) * PAIR + 64 + ((c & 1) << 3);
        sum += load<f64>(weights + (<usize>c << 3)) * load<f64>(energy);
        store<f64>(energy, 0);
      }
      store<f64>(out + (<usize>done << 3), sum / <f64>hop);
      done++;
      phase = 0;
    }
  }
  store<i32>(p, phase, 4);
  return done;
}

function pair(p: usize, s: usize, a: usize, b: usize, n: i32): void {
  const b0 = f64x2.splat(load<f64>(p, 16)), b1 = f64x2.splat(load<f64>(p, 24)), b2 = f64x2.splat(load<f64>(p, 32));
  const a1 = f64x2.splat(load<f64>(p, 40)), a2 = f64x2.splat(load<f64>(p, 48));
  const c1 = f64x2.splat(load<f64>(p, 80)), c2 = f64x2.splat(load<f64>(p, 88));
  let s1 = v128.load(s, 0), s2 = v128.load(s, 16), t1 = v128.load(s, 32), t2 = v128.load(s, 48);
  let energy = v128.load(s, 64);
  const awake = f64x2.splat(1e-24);
  for (let i = 0; i < n; i++) {
    const at = <usize>i << 2;
    const x = f64x2.add(f64x2.promote_low_f32x4(v128.load32_lane(b + at, v128.load32_zero(a + at), 1)), awake);
    const y = f64x2.add(f64x2.mul(b0, x), s1);
    s1 = f64x2.sub(f64x2.add(f64x2.mul(b1, x), s2), f64x2.mul(a1, y));
    s2 = f64x2.sub(f64x2.mul(b2, x), f64x2.mul(a2, y));
    // The second section's numerator is 1, -2, 1.
    const z = f64x2.add(y, t1);
    t1 = f64x2.sub(f64x2.sub(t2, f64x2.add(y, y)), f64x2.mul(c1, z));
    t2 = f64x2.sub(y, f64x2.mul(c2, z));
    energy = f64x2.add(energy, f64x2.mul(z, z));
  }
  v128.store(s, s1, 0);
  v128.store(s, s2, 16);
  v128.store(s, t1, 32);
  v128.store(s, t2, 48);
  v128.store(s, energy, 64);
}

function silent(buf: usize, n: i32): bool {
  let any: v128 = i32x4.splat(0);
  const end = n & ~3;
  let i = 0;
  for (; i < end; i += 4) any = v128.or(any, v128.load(buf + (<usize>i << 2)));
  // All bits but the sign: minus zero is silence too.
  if (v128.any_true(v128.and(any, i32x4.splat(0x7fffffff)))) return false;
  for (; i < n; i++) if (load<f32>(buf + (<usize>i << 2)) != 0) return false;
  return true;
}
