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

/**
 * Runs the sections whose addresses stand at `list` over `buf` in place. A zero stands between two stages: the sound is
 * rounded to f32 there, as it is where they run apart. Within a stage three sections each are one sum in f64.
 */
export function biquadChain(list: usize, count: i32, buf: usize, n: i32): void {
  let k = 0;
  while (k < count) {
    const m = groupAt(list, k, count);
    if (m > 0) group(list + (<usize>k << 2), m, buf, n);
    k += max(m, 1);
  }
}

/** Runs a chain of `count` sections on each of `channels` channels; `lists` and `table` hold an address per channel. */
export function biquadChannels(lists: usize, count: i32, table: usize, channels: i32, n: i32): void {
  let c = 0;
  // Two channels of a kind side by side, in the two lanes of a register.
  for (; c + 1 < channels; c += 2) {
    const at = <usize>c << 2;
    const p = <usize>load<u32>(lists + at), q = <usize>load<u32>(lists + at, 4);
    const a = <usize>load<u32>(table + at), b = <usize>load<u32>(table + at, 4);
    biquadPair(p, q, count, a, b, n);
  }
  for (; c < channels; c++) {
    const at = <usize>c << 2;
    biquadChain(<usize>load<u32>(lists + at), count, <usize>load<u32>(table + at), n);
  }
}

/** Runs two chains whose stages have as many sections each, one on `a` and one on `b`: as `biquadChain` does on each. */
export function biquadPair(p: usize, q: usize, count: i32, a: usize, b: usize, n: i32): void {
  if (calm(p, count) && calm(q, count)) pair(p, q, count, a, b, n);
  else {
    biquadChain(p, count, a, n);
    biquadChain(q, count, b, n);
  }
}

/** How many sections from `k` on are summed as one: up to three of a stage; 0 at the end of one. */
function groupAt(list: usize, k: i32, count: i32): i32 {
  let m = 0;
  while (m < 3 && k + m < count && load<u32>(list + (<usize>(k + m) << 2)) != 0) m++;
  return m;
}

// @ts-ignore: decorator
@inline
function nth(list: usize, k: i32): usize {
  return <usize>load<u32>(list + (<usize>k << 2));
}

function calm(list: usize, m: i32): bool {
  for (let k = 0; k < m; k++) {
    const p = nth(list, k);
    if (p != 0 && load<i32>(p, 152) > 0) return false;
  }
  return true;
}

// While one of them glides they run one after the other: to the sample, however long the blocks are.
function group(list: usize, m: i32, buf: usize, n: i32): void {
  let i = 0;
  while (i < n) {
    let span = n - i;
    for (let k = 0; k < m; k++) {
      const left = load<i32>(nth(list, k), 152);
      if (left > 0) span = min(span, left);
    }
    const at = buf + (<usize>i << 2);
    if (!calm(list, m)) {
      for (let k = 0; k < m; k++) {
        const p = nth(list, k);
        if (load<i32>(p, 152) > 0) glideSection(p, at, span);
        else one(p, at, span);
      }
    } else if (m == 3) three(nth(list, 0), nth(list, 1), nth(list, 2), at, span);
    else if (m == 2) two(nth(list, 0), nth(list, 1), at, span);
    else one(nth(list, 0), at, span);
    i += span;
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

// Several sections in one loop: each works on a sample while the one before is at the next. Between them the sample stays in
// f64: rounding it would bind the loop.
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
    const u = y + KEEP_AWAKE;
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
    const u = y + KEEP_AWAKE;
    const v = d0 * u + t1;
    t1 = d1 * u + t2 - c1 * v;
    t2 = d2 * u - c2 * v;
    const g = v + KEEP_AWAKE;
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

/** Samples of two channels that are worked on at a time, as pairs in f64. */
const CHUNK: i32 = 128;
const pairs: usize = memory.data(CHUNK << 4, 16);

// All sections of two channels at once: the same sums as those of one, in two lanes.
function pair(p: usize, q: usize, count: i32, a: usize, b: usize, n: i32): void {
  for (let i = 0; i < n; i += CHUNK) {
    const span = min(CHUNK, n - i);
    const at = <usize>i << 2;
    spread(a + at, b + at, span);
    let k = 0;
    let open = false;
    while (k < count) {
      const m = groupAt(p, k, count);
      if (m > 0) {
        if (open) round(span);
        const list = p + (<usize>k << 2), other = q + (<usize>k << 2);
        if (m == 3) pairThree(list, other, span);
        else if (m == 2) pairTwo(list, other, span);
        else pairOne(list, other, span);
        open = true;
      }
      k += max(m, 1);
    }
    gather(a + at, b + at, span);
  }
}

function spread(a: usize, b: usize, n: i32): void {
  let i = 0;
  for (; i + 3 < n; i += 4) {
    const at = <usize>i << 2, to = pairs + (<usize>i << 4);
    const x = v128.load(a + at), y = v128.load(b + at);
    const low = v128.shuffle<f32>(x, y, 0, 4, 1, 5), high = v128.shuffle<f32>(x, y, 2, 6, 3, 7);
    v128.store(to, f64x2.promote_low_f32x4(low));
    v128.store(to, f64x2.promote_low_f32x4(v128.shuffle<f32>(low, low, 2, 3, 2, 3)), 16);
    v128.store(to, f64x2.promote_low_f32x4(high), 32);
    v128.store(to, f64x2.promote_low_f32x4(v128.shuffle<f32>(high, high, 2, 3, 2, 3)), 48);
  }
  for (; i < n; i++) {
    const at = <usize>i << 2, to = pairs + (<usize>i << 4);
    store<f64>(to, <f64>load<f32>(a + at));
    store<f64>(to, <f64>load<f32>(b + at), 8);
  }
}

function gather(a: usize, b: usize, n: i32): void {
  let i = 0;
  for (; i + 3 < n; i += 4) {
    const at = <usize>i << 2, from = pairs + (<usize>i << 4);
    const low = v128.shuffle<f32>(
      f32x4.demote_f64x2_zero(v128.load(from)), f32x4.demote_f64x2_zero(v128.load(from, 16)), 0, 4, 1, 5,
    );
    const high = v128.shuffle<f32>(
      f32x4.demote_f64x2_zero(v128.load(from, 32)), f32x4.demote_f64x2_zero(v128.load(from, 48)), 0, 4, 1, 5,
    );
    v128.store(a + at, v128.shuffle<f32>(low, high, 0, 1, 4, 5));
    v128.store(b + at, v128.shuffle<f32>(low, high, 2, 3, 6, 7));
  }
  for (; i < n; i++) {
    const at = <usize>i << 2, from = pairs + (<usize>i << 4);
    store<f32>(a + at, <f32>load<f64>(from));
    store<f32>(b + at, <f32>load<f64>(from, 8));
  }
}

function round(n: i32): void {
  for (let i = 0; i < n; i++) {
    const at = pairs + (<usize>i << 4);
    v128.store(at, f64x2.promote_low_f32x4(f32x4.demote_f64x2_zero(v128.load(at))));
  }
}

// @ts-ignore: decorator
@inline
function lanes(p: usize, q: usize, at: usize): v128 {
  return f64x2.replace_lane(f64x2.splat(load<f64>(p + at)), 1, load<f64>(q + at));
}

// @ts-ignore: decorator
@inline
function keep(p: usize, q: usize, at: usize, v: v128): void {
  store<f64>(p + at, f64x2.extract_lane(v, 0));
  store<f64>(q + at, f64x2.extract_lane(v, 1));
}

// @ts-ignore: decorator
@inline
function mul(a: v128, b: v128): v128 {
  return f64x2.mul(a, b);
}

// @ts-ignore: decorator
@inline
function add(a: v128, b: v128): v128 {
  return f64x2.add(a, b);
}

function pairOne(list: usize, other: usize, n: i32): void {
  const p = nth(list, 0), q = nth(other, 0);
  const b0 = lanes(p, q, 0), b1 = lanes(p, q, 8), b2 = lanes(p, q, 16), a1 = lanes(p, q, 24), a2 = lanes(p, q, 32);
  let s1 = lanes(p, q, 40), s2 = lanes(p, q, 48);
  const awake = f64x2.splat(KEEP_AWAKE);
  for (let i = 0; i < n; i++) {
    const at = pairs + (<usize>i << 4);
    const x = add(v128.load(at), awake);
    const y = add(mul(b0, x), s1);
    s1 = f64x2.sub(add(mul(b1, x), s2), mul(a1, y));
    s2 = f64x2.sub(mul(b2, x), mul(a2, y));
    v128.store(at, y);
  }
  keep(p, q, 40, s1);
  keep(p, q, 48, s2);
}

function pairTwo(list: usize, other: usize, n: i32): void {
  const p = nth(list, 0), q = nth(other, 0);
  const b0 = lanes(p, q, 0), b1 = lanes(p, q, 8), b2 = lanes(p, q, 16), a1 = lanes(p, q, 24), a2 = lanes(p, q, 32);
  let s1 = lanes(p, q, 40), s2 = lanes(p, q, 48);
  const r = nth(list, 1), o = nth(other, 1);
  const d0 = lanes(r, o, 0), d1 = lanes(r, o, 8), d2 = lanes(r, o, 16), c1 = lanes(r, o, 24), c2 = lanes(r, o, 32);
  let t1 = lanes(r, o, 40), t2 = lanes(r, o, 48);
  const awake = f64x2.splat(KEEP_AWAKE);
  for (let i = 0; i < n; i++) {
    const at = pairs + (<usize>i << 4);
    const x = add(v128.load(at), awake);
    const y = add(mul(b0, x), s1);
    s1 = f64x2.sub(add(mul(b1, x), s2), mul(a1, y));
    s2 = f64x2.sub(mul(b2, x), mul(a2, y));
    const u = add(y, awake);
    const v = add(mul(d0, u), t1);
    t1 = f64x2.sub(add(mul(d1, u), t2), mul(c1, v));
    t2 = f64x2.sub(mul(d2, u), mul(c2, v));
    v128.store(at, v);
  }
  keep(p, q, 40, s1);
  keep(p, q, 48, s2);
  keep(r, o, 40, t1);
  keep(r, o, 48, t2);
}

function pairThree(list: usize, other: usize, n: i32): void {
  const p = nth(list, 0), q = nth(other, 0);
  const b0 = lanes(p, q, 0), b1 = lanes(p, q, 8), b2 = lanes(p, q, 16), a1 = lanes(p, q, 24), a2 = lanes(p, q, 32);
  let s1 = lanes(p, q, 40), s2 = lanes(p, q, 48);
  const r = nth(list, 1), o = nth(other, 1);
  const d0 = lanes(r, o, 0), d1 = lanes(r, o, 8), d2 = lanes(r, o, 16), c1 = lanes(r, o, 24), c2 = lanes(r, o, 32);
  let t1 = lanes(r, o, 40), t2 = lanes(r, o, 48);
  const g = nth(list, 2), h = nth(other, 2);
  const f0 = lanes(g, h, 0), f1 = lanes(g, h, 8), f2 = lanes(g, h, 16), e1 = lanes(g, h, 24), e2 = lanes(g, h, 32);
  let w1 = lanes(g, h, 40), w2 = lanes(g, h, 48);
  const awake = f64x2.splat(KEEP_AWAKE);
  for (let i = 0; i < n; i++) {
    const at = pairs + (<usize>i << 4);
    const x = add(v128.load(at), awake);
    const y = add(mul(b0, x), s1);
    s1 = f64x2.sub(add(mul(b1, x), s2), mul(a1, y));
    s2 = f64x2.sub(mul(b2, x), mul(a2, y));
    const u = add(y, awake);
    const v = add(mul(d0, u), t1);
    t1 = f64x2.sub(add(mul(d1, u), t2), mul(c1, v));
    t2 = f64x2.sub(mul(d2, u), mul(c2, v));
    const z = add(v, awake);
    const k = add(mul(f0, z), w1);
    w1 = f64x2.sub(add(mul(f1, z), w2), mul(e1, k));
    w2 = f64x2.sub(mul(f2, z), mul(e2, k));
    v128.store(at, k);
  }
  keep(p, q, 40, s1);
  keep(p, q, 48, s2);
  keep(r, o, 40, t1);
  keep(r, o, 48, t2);
  keep(g, h, 40, w1);
  keep(g, h, 48, w2);
}
