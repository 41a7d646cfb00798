// Discrete Fourier transform of a power-of-two length (Cooley and Tukey, Math. Comp. 19, 1965) in the form that needs no
// reordering (Stockham; Cochran et al., IEEE Trans. Audio Electroacoust. 15, 1967), four parts at a time, in f64; real and
// imaginary parts stand apart.

/** Bytes of the table for transforms of up to `n` points. */
export function fftTableBytes(n: i32): i32 {
  return max(1, (3 * n) >> 2) << 4;
}

/** Writes the factors (cos, sin; f64 pairs) for transforms of `n` points, and of all shorter ones. */
export function fftTable(out: usize, n: i32): void {
  for (let i = 0; i < max(1, (3 * n) >> 2); i++) {
    const a = (-2.0 * 3.141592653589793 * <f64>i) / <f64>n;
    store<f64>(out + (<usize>i << 4), NativeMath.cos(a));
    store<f64>(out + (<usize>i << 4), NativeMath.sin(a), 8);
  }
}

/**
 * Transforms `n` points in place; the result is not scaled. `re`, `im`, and the scratch pair: n f64 each. `table`: of
 * `tableSize` >= n points. With the two parts exchanged in the call it transforms back.
 */
export function fftRun(re: usize, im: usize, re2: usize, im2: usize, table: usize, tableSize: i32, n: i32): void {
  let xr = re, xi = im, yr = re2, yi = im2;
  let size = n;
  let stride = 1;
  for (; size >= 4; size >>= 2) {
    if (stride === 1) firstFour(xr, xi, yr, yi, table, tableSize / size, size);
    else fours(xr, xi, yr, yi, table, tableSize / size, size, stride);
    stride <<= 2;
    let t = xr;
    xr = yr;
    yr = t;
    t = xi;
    xi = yi;
    yi = t;
  }
  if (size === 2) {
    lastTwo(xr, xi, stride);
  }
  if (xr !== re) {
    memory.copy(re, xr, <usize>n << 3);
    memory.copy(im, xi, <usize>n << 3);
  }
}

// Sums and differences of the two halves; in place, since each pair stays where it was.
function lastTwo(xr: usize, xi: usize, stride: i32): void {
  const half = <usize>stride << 3;
  if (stride === 1) {
    const ar = load<f64>(xr), br = load<f64>(xr, 8), ai = load<f64>(xi), bi = load<f64>(xi, 8);
    store<f64>(xr, ar + br);
    store<f64>(xr, ar - br, 8);
    store<f64>(xi, ai + bi);
    store<f64>(xi, ai - bi, 8);
    return;
  }
  for (let q: usize = 0; q < half; q += 16) {
    const ar = v128.load(xr + q), br = v128.load(xr + half + q);
    const ai = v128.load(xi + q), bi = v128.load(xi + half + q);
    v128.store(xr + q, f64x2.add(ar, br));
    v128.store(xr + half + q, f64x2.sub(ar, br));
    v128.store(xi + q, f64x2.add(ai, bi));
    v128.store(xi + half + q, f64x2.sub(ai, bi));
  }
}

function fours(
  xr: usize, xi: usize, yr: usize, yi: usize, table: usize, step: i32, size: i32, stride: i32,
): void {
  const quarter = size >> 2;
  const row = <usize>stride << 3;
  const across = row * <usize>quarter;
  for (let p = 0; p < quarter; p++) {
    const w1 = table + (<usize>(p * step) << 4), w2 = table + (<usize>(2 * p * step) << 4);
    const w3 = table + (<usize>(3 * p * step) << 4);
    const w1r = v128.load64_splat(w1), w1i = v128.load64_splat(w1, 8);
    const w2r = v128.load64_splat(w2), w2i = v128.load64_splat(w2, 8);
    const w3r = v128.load64_splat(w3), w3i = v128.load64_splat(w3, 8);
    const inR = xr + row * <usize>p, inI = xi + row * <usize>p;
    const outR = yr + 4 * row * <usize>p, outI = yi + 4 * row * <usize>p;
    for (let q: usize = 0; q < row; q += 16) {
      const ar = v128.load(inR + q), ai = v128.load(inI + q);
      const br = v128.load(inR + across + q), bi = v128.load(inI + across + q);
      const cr = v128.load(inR + 2 * across + q), ci = v128.load(inI + 2 * across + q);
      const dr = v128.load(inR + 3 * across + q), di = v128.load(inI + 3 * across + q);
      const sr = f64x2.add(ar, cr), si = f64x2.add(ai, ci), tr = f64x2.sub(ar, cr), ti = f64x2.sub(ai, ci);
      const ur = f64x2.add(br, dr), ui = f64x2.add(bi, di), vr = f64x2.sub(br, dr), vi = f64x2.sub(bi, di);
      v128.store(outR + q, f64x2.add(sr, ur));
      v128.store(outI + q, f64x2.add(si, ui));
      // t - jv, s - u, t + jv
      const er = f64x2.add(tr, vi), ei = f64x2.sub(ti, vr);
      v128.store(outR + row + q, f64x2.sub(f64x2.mul(er, w1r), f64x2.mul(ei, w1i)));
      v128.store(outI + row + q, f64x2.add(f64x2.mul(er, w1i), f64x2.mul(ei, w1r)));
      const fr = f64x2.sub(sr, ur), fi = f64x2.sub(si, ui);
      v128.store(outR + 2 * row + q, f64x2.sub(f64x2.mul(fr, w2r), f64x2.mul(fi, w2i)));
      v128.store(outI + 2 * row + q, f64x2.add(f64x2.mul(fr, w2i), f64x2.mul(fi, w2r)));
      const gr = f64x2.sub(tr, vi), gi = f64x2.add(ti, vr);
      v128.store(outR + 3 * row + q, f64x2.sub(f64x2.mul(gr, w3r), f64x2.mul(gi, w3i)));
      v128.store(outI + 3 * row + q, f64x2.add(f64x2.mul(gr, w3i), f64x2.mul(gi, w3r)));
    }
  }
}

// @ts-ignore: decorator
@inline
function pair(at: usize, next: usize): v128 {
  return v128.load64_lane(next, v128.load64_zero(at), 1);
}

// The first pass has rows of one: two of them go side by side, and their results are dealt out in fours.
function firstFour(xr: usize, xi: usize, yr: usize, yi: usize, table: usize, step: i32, size: i32): void {
  const quarter = size >> 2;
  const across = <usize>quarter << 3;
  if (quarter === 1) {
    const ar = load<f64>(xr), br = load<f64>(xr, 8), cr = load<f64>(xr, 16), dr = load<f64>(xr, 24);
    const ai = load<f64>(xi), bi = load<f64>(xi, 8), ci = load<f64>(xi, 16), di = load<f64>(xi, 24);
    store<f64>(yr, ar + cr + (br + dr));
    store<f64>(yi, ai + ci + (bi + di));
    store<f64>(yr, ar - cr + (bi - di), 8);
    store<f64>(yi, ai - ci - (br - dr), 8);
    store<f64>(yr, ar + cr - (br + dr), 16);
    store<f64>(yi, ai + ci - (bi + di), 16);
    store<f64>(yr, ar - cr - (bi - di), 24);
    store<f64>(yi, ai - ci + (br - dr), 24);
    return;
  }
  for (let p = 0; p < quarter; p += 2) {
    const q = <usize>p << 3;
    const hop = <usize>step << 4;
    const w1 = table + hop * <usize>p, w2 = table + 2 * hop * <usize>p, w3 = table + 3 * hop * <usize>p;
    const w1r = pair(w1, w1 + hop), w1i = pair(w1 + 8, w1 + hop + 8);
    const w2r = pair(w2, w2 + 2 * hop), w2i = pair(w2 + 8, w2 + 2 * hop + 8);
    const w3r = pair(w3, w3 + 3 * hop), w3i = pair(w3 + 8, w3 + 3 * hop + 8);
    const ar = v128.load(xr + q), ai = v128.load(xi + q);
    const br = v128.load(xr + across + q), bi = v128.load(xi + across + q);
    const cr = v128.load(xr + 2 * across + q), ci = v128.load(xi + 2 * across + q);
    const dr = v128.load(xr + 3 * across + q), di = v128.load(xi + 3 * across + q);
    const sr = f64x2.add(ar, cr), si = f64x2.add(ai, ci), tr = f64x2.sub(ar, cr), ti = f64x2.sub(ai, ci);
    const ur = f64x2.add(br, dr), ui = f64x2.add(bi, di), vr = f64x2.sub(br, dr), vi = f64x2.sub(bi, di);
    const r0 = f64x2.add(sr, ur), i0 = f64x2.add(si, ui);
    const er = f64x2.add(tr, vi), ei = f64x2.sub(ti, vr);
    const r1 = f64x2.sub(f64x2.mul(er, w1r), f64x2.mul(ei, w1i));
    const i1 = f64x2.add(f64x2.mul(er, w1i), f64x2.mul(ei, w1r));
    const fr = f64x2.sub(sr, ur), fi = f64x2.sub(si, ui);
    const r2 = f64x2.sub(f64x2.mul(fr, w2r), f64x2.mul(fi, w2i));
    const i2 = f64x2.add(f64x2.mul(fr, w2i), f64x2.mul(fi, w2r));
    const gr = f64x2.sub(tr, vi), gi = f64x2.add(ti, vr);
    const r3 = f64x2.sub(f64x2.mul(gr, w3r), f64x2.mul(gi, w3i));
    const i3 = f64x2.add(f64x2.mul(gr, w3i), f64x2.mul(gi, w3r));
    const outR = yr + 4 * q, outI = yi + 4 * q;
    v128.store(outR, v128.shuffle<f64>(r0, r1, 0, 2));
    v128.store(outR, v128.shuffle<f64>(r2, r3, 0, 2), 16);
    v128.store(outR, v128.shuffle<f64>(r0, r1, 1, 3), 32);
    v128.store(outR, v128.shuffle<f64>(r2, r3, 1, 3), 48);
    v128.store(outI, v128.shuffle<f64>(i0, i1, 0, 2));
    v128.store(outI, v128.shuffle<f64>(i2, i3, 0, 2), 16);
    v128.store(outI, v128.shuffle<f64>(i0, i1, 1, 3), 32);
    v128.store(outI, v128.shuffle<f64>(i2, i3, 1, 3), 48);
  }
}

/**
 * Adds the power |X|^2 of bins 0 to n/2 of real signals `a` and `b` (f32; `b` may be 0, for none), windowed by `window`
 * (f64), to `power`: the one as real, the other as imaginary part of one transform. Of Z = A + iB with A and B those of
 * real signals, |Z[k]|^2 + |Z[n-k]|^2 is 2 (|A[k]|^2 + |B[k]|^2). `scratch`: 4 n f64.
 */
export function powerAdd(
  a: usize, b: usize, window: usize, scratch: usize, table: usize, n: i32, power: usize,
): void {
  const bytes = <usize>n << 3;
  const re = scratch, im = scratch + bytes;
  for (let i = 0; i < n; i++) {
    const w = load<f64>(window + (<usize>i << 3));
    store<f64>(re + (<usize>i << 3), <f64>load<f32>(a + (<usize>i << 2)) * w);
    store<f64>(im + (<usize>i << 3), b ? <f64>load<f32>(b + (<usize>i << 2)) * w : 0);
  }
  fftRun(re, im, im + bytes, im + 2 * bytes, table, n, n);
  for (let i = 0; i <= n / 2; i++) {
    const z = <usize>i << 3, y = <usize>((n - i) & (n - 1)) << 3;
    const zr = load<f64>(re + z), zi = load<f64>(im + z), yr = load<f64>(re + y), yi = load<f64>(im + y);
    const at = power + (<usize>i << 3);
    store<f64>(at, load<f64>(at) + 0.5 * (zr * zr + zi * zi + yr * yr + yi * yi));
  }
}
