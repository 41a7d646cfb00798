// One second-order section, transposed direct form II, state and coefficients in f64. New coefficients run
// in a second filter beside the first: it settles during the first half of a glide, then the sound moves
// over to it along a smooth curve.
// {coefficients now 5 f64 @0, s1 f64 @40, s2 f64 @48, coming 5 f64 @56, its s1 @96, s2 @104,
//  waiting 5 f64 @112, remaining i32 @152, length i32 @156, waits i32 @160}
export const BIQUAD_BYTES: i32 = 168;

// Keeps the recursion out of denormal numbers in silence: -480 dBFS, far below any word length.
const KEEP_AWAKE: f64 = 1e-24;

/** Takes the coefficients at `coefs` (5 f64), moving over to them within `samples` samples (0: at once). */
export function biquadSet(section: usize, coefs: usize, samples: i32): void {
  if (samples <= 0) {
    memory.copy(section, coefs, 40);
    store<i32>(section, 0, 152);
    store<i32>(section, 0, 160);
    return;
  }
  const fading = load<i32>(section, 152) > 0;
  if (same(fading ? section + 56 : section, coefs)) {
    store<i32>(section, 0, 160);
    return;
  }
  if (fading) {
    memory.copy(section + 112, coefs, 40);
    store<i32>(section, 1, 160);
    store<i32>(section, samples, 156);
    return;
  }
  begin(section, coefs, samples);
}

function same(a: usize, b: usize): bool {
  for (let i: usize = 0; i < 40; i += 8) if (load<f64>(a + i) != load<f64>(b + i)) return false;
  return true;
}

function begin(section: usize, coefs: usize, samples: i32): void {
  memory.copy(section + 56, coefs, 40);
  store<f64>(section, 0, 96);
  store<f64>(section, 0, 104);
  store<i32>(section, samples, 152);
  store<i32>(section, samples, 156);
  store<i32>(section, 0, 160);
}

function glideSection(p: usize, buf: usize, n: i32): i32 {
  let remaining = load<i32>(p, 152);
  const length = load<i32>(p, 156);
  const half = <f64>(length - (length >> 1));
  let i = 0;
  for (; i < n && remaining > 0; i++) {
    remaining--;
    const at = buf + (<usize>i << 2);
    const x = <f64>load<f32>(at) + KEEP_AWAKE;
    const a = sample(p, x);
    const b = sample(p + 56, x);
    const t = max(0.0, 1.0 - <f64>remaining / half);
    store<f32>(at, <f32>(a + (b - a) * (t * t * (3.0 - 2.0 * t))));
  }
  store<i32>(p, remaining, 152);
  if (remaining == 0) {
    memory.copy(p, p + 56, 56);
    if (load<i32>(p, 160)) begin(p, p + 112, length);
  }
  return i;
}

// @ts-ignore: decorator
@inline
function sample(p: usize, x: f64): f64 {
  const y = load<f64>(p, 0) * x + load<f64>(p, 40);
  store<f64>(p, load<f64>(p, 8) * x + load<f64>(p, 48) - load<f64>(p, 24) * y, 40);
  store<f64>(p, load<f64>(p, 16) * x - load<f64>(p, 32) * y, 48);
  return y;
}

/** Runs `count` sections, whose addresses stand at `list`, one after the other over `buf` in place. */
export function biquadChain(list: usize, count: i32, buf: usize, n: i32): void {
  let k = 0;
  while (k < count) {
    const p = <usize>load<u32>(list + (<usize>k << 2));
    if (load<i32>(p, 152) > 0) {
      let done = 0;
      while (done < n && load<i32>(p, 152) > 0) done += glideSection(p, buf + (<usize>done << 2), n - done);
      if (done < n) one(p, buf + (<usize>done << 2), n - done);
      k++;
      continue;
    }
    let calm = 1;
    while (calm < 3 && k + calm < count && load<i32>(<usize>load<u32>(list + (<usize>(k + calm) << 2)), 152) == 0) calm++;
    const q = calm > 1 ? <usize>load<u32>(list + (<usize>(k + 1) << 2)) : 0;
    const r = calm > 2 ? <usize>load<u32>(list + (<usize>(k + 2) << 2)) : 0;
    if (calm == 3) three(p, q, r, buf, n);
    else if (calm == 2) two(p, q, buf, n);
    else one(p, buf, n);
    k += calm;
  }
}

/** Runs a chain of `count` sections on each of `channels` channels; `lists` and `table` hold an address per channel. */
export function biquadChannels(lists: usize, count: i32, table: usize, channels: i32, n: i32): void {
  for (let c = 0; c < channels; c++) {
    const at = <usize>c << 2;
    biquadChain(<usize>load<u32>(lists + at), count, <usize>load<u32>(table + at), n);
  }
}

// Each section's next state waits for its output only in the last subtraction: the shortest recursion.
function one(p: usize, buf: usize, n: i32): void {
  const b0 = load<f64>(p, 0), b1 = load<f64>(p, 8), b2 = load<f64>(p, 16);
  const a1 = load<f64>(p, 24), a2 = load<f64>(p, 32);
  let s1 = load<f64>(p, 40), s2 = load<f64>(p, 48);
  for (let i = 0; i < n; i++) {
    const at = buf + (<usize>i << 2);
    const x = <f64>load<f32>(at) + KEEP_AWAKE;
    const y = b0 * x + s1;
    s1 = b1 * x + s2 - a1 * y;
    s2 = b2 * x - a2 * y;
    store<f32>(at, <f32>y);
  }
  store<f64>(p, s1, 40);
  store<f64>(p, s2, 48);
}

// Several sections in one loop: each works on a sample while the one before is at the next. The sample
// between them is rounded to f32, as it is when they run one after the other.
function two(p: usize, q: usize, buf: usize, n: i32): void {
  const b0 = load<f64>(p, 0), b1 = load<f64>(p, 8), b2 = load<f64>(p, 16);
  const a1 = load<f64>(p, 24), a2 = load<f64>(p, 32);
  let s1 = load<f64>(p, 40), s2 = load<f64>(p, 48);
  const d0 = load<f64>(q, 0), d1 = load<f64>(q, 8), d2 = load<f64>(q, 16);
  const c1 = load<f64>(q, 24), c2 = load<f64>(q, 32);
  let t1 = load<f64>(q, 40), t2 = load<f64>(q, 48);
  for (let i = 0; i < n; i++) {
    const at = buf + (<usize>i << 2);
    const x = <f64>load<f32>(at) + KEEP_AWAKE;
    const y = b0 * x + s1;
    s1 = b1 * x + s2 - a1 * y;
    s2 = b2 * x - a2 * y;
    const u = <f64>(<f32>y) + KEEP_AWAKE;
    const v = d0 * u + t1;
    t1 = d1 * u + t2 - c1 * v;
    t2 = d2 * u - c2 * v;
    store<f32>(at, <f32>v);
  }
  store<f64>(p, s1, 40);
  store<f64>(p, s2, 48);
  store<f64>(q, t1, 40);
  store<f64>(q, t2, 48);
}

function three(p: usize, q: usize, r: usize, buf: usize, n: i32): void {
  const b0 = load<f64>(p, 0), b1 = load<f64>(p, 8), b2 = load<f64>(p, 16);
  const a1 = load<f64>(p, 24), a2 = load<f64>(p, 32);
  let s1 = load<f64>(p, 40), s2 = load<f64>(p, 48);
  const d0 = load<f64>(q, 0), d1 = load<f64>(q, 8), d2 = load<f64>(q, 16);
  const c1 = load<f64>(q, 24), c2 = load<f64>(q, 32);
  let t1 = load<f64>(q, 40), t2 = load<f64>(q, 48);
  const f0 = load<f64>(r, 0), f1 = load<f64>(r, 8), f2 = load<f64>(r, 16);
  const e1 = load<f64>(r, 24), e2 = load<f64>(r, 32);
  let w1 = load<f64>(r, 40), w2 = load<f64>(r, 48);
  for (let i = 0; i < n; i++) {
    const at = buf + (<usize>i << 2);
    const x = <f64>load<f32>(at) + KEEP_AWAKE;
    const y = b0 * x + s1;
    s1 = b1 * x + s2 - a1 * y;
    s2 = b2 * x - a2 * y;
    const u = <f64>(<f32>y) + KEEP_AWAKE;
    const v = d0 * u + t1;
    t1 = d1 * u + t2 - c1 * v;
    t2 = d2 * u - c2 * v;
    const g = <f64>(<f32>v) + KEEP_AWAKE;
    const h = f0 * g + w1;
    w1 = f1 * g + w2 - e1 * h;
    w2 = f2 * g - e2 * h;
    store<f32>(at, <f32>h);
  }
  store<f64>(p, s1, 40);
  store<f64>(p, s2, 48);
  store<f64>(q, t1, 40);
  store<f64>(q, t2, 48);
  store<f64>(r, w1, 40);
  store<f64>(r, w2, 48);
}
