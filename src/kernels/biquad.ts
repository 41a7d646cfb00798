// One second-order section, transposed direct form II, state and coefficients in f64:
// {coefficients now 5 f64 @0, target 5 f64 @40, remaining i32 @80, s1 f64 @88, s2 f64 @96}.
export const BIQUAD_BYTES: i32 = 112;

// Keeps the recursion out of denormal numbers in silence: -480 dBFS, far below any word length.
const KEEP_AWAKE: f64 = 1e-24;

/** Takes the coefficients at `coefs` (5 f64), gliding over `samples` samples (0: at once). */
export function biquadSet(section: usize, coefs: usize, samples: i32): void {
  let same = true;
  for (let i: usize = 0; i < 40; i += 8) {
    if (load<f64>(section + i, 40) != load<f64>(coefs + i)) same = false;
  }
  if (same) return;
  memory.copy(section + 40, coefs, 40);
  store<i32>(section, samples, 80);
  if (samples <= 0) memory.copy(section, coefs, 40);
}

function glideSection(p: usize, buf: usize, n: i32): i32 {
  let remaining = load<i32>(p, 80);
  let s1 = load<f64>(p, 88);
  let s2 = load<f64>(p, 96);
  let i = 0;
  for (; i < n && remaining > 0; i++) {
    const share = 1.0 / <f64>remaining;
    for (let k: usize = 0; k < 40; k += 8) {
      const now = load<f64>(p + k);
      store<f64>(p + k, now + (load<f64>(p + k, 40) - now) * share);
    }
    remaining--;
    const at = buf + (<usize>i << 2);
    const x = <f64>load<f32>(at) + KEEP_AWAKE;
    const y = load<f64>(p, 0) * x + s1;
    s1 = load<f64>(p, 8) * x + s2 - load<f64>(p, 24) * y;
    s2 = load<f64>(p, 16) * x - load<f64>(p, 32) * y;
    store<f32>(at, <f32>y);
  }
  if (remaining == 0) memory.copy(p, p + 40, 40);
  store<i32>(p, remaining, 80);
  store<f64>(p, s1, 88);
  store<f64>(p, s2, 96);
  return i;
}

// Each section's next state waits for its output only in the last subtraction: the shortest recursion.
function one(p: usize, buf: usize, n: i32): void {
  const b0 = load<f64>(p, 0), b1 = load<f64>(p, 8), b2 = load<f64>(p, 16);
  const a1 = load<f64>(p, 24), a2 = load<f64>(p, 32);
  let s1 = load<f64>(p, 88), s2 = load<f64>(p, 96);
  for (let i = 0; i < n; i++) {
    const at = buf + (<usize>i << 2);
    const x = <f64>load<f32>(at) + KEEP_AWAKE;
    const y = b0 * x + s1;
    s1 = b1 * x + s2 - a1 * y;
    s2 = b2 * x - a2 * y;
    store<f32>(at, <f32>y);
  }
  store<f64>(p, s1, 88);
  store<f64>(p, s2, 96);
}

// Two sections in one loop: the second works on a sample while the first is at the next one. The sample
// between them is rounded to f32, as it is when they run one after the other.
function two(p: usize, q: usize, buf: usize, n: i32): void {
  const b0 = load<f64>(p, 0), b1 = load<f64>(p, 8), b2 = load<f64>(p, 16);
  const a1 = load<f64>(p, 24), a2 = load<f64>(p, 32);
  let s1 = load<f64>(p, 88), s2 = load<f64>(p, 96);
  const d0 = load<f64>(q, 0), d1 = load<f64>(q, 8), d2 = load<f64>(q, 16);
  const c1 = load<f64>(q, 24), c2 = load<f64>(q, 32);
  let t1 = load<f64>(q, 88), t2 = load<f64>(q, 96);
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
  store<f64>(p, s1, 88);
  store<f64>(p, s2, 96);
  store<f64>(q, t1, 88);
  store<f64>(q, t2, 96);
}

/** Runs `sections` consecutive sections over `buf` in place. */
export function biquadRun(section: usize, sections: i32, buf: usize, n: i32): void {
  let k = 0;
  while (k < sections) {
    const p = section + k * BIQUAD_BYTES;
    const q = p + BIQUAD_BYTES;
    if (k + 1 < sections && load<i32>(p, 80) == 0 && load<i32>(q, 80) == 0) {
      two(p, q, buf, n);
      k += 2;
      continue;
    }
    const done = load<i32>(p, 80) > 0 ? glideSection(p, buf, n) : 0;
    if (done < n) one(p, buf + (<usize>done << 2), n - done);
    k++;
  }
}
