// Discrete Fourier transform of a power-of-two length: Cooley and Tukey, Math. Comp. 19, 1965, radix two,
// decimation in time, in place on interleaved complex f64.

/** Writes n/2 twiddle factors (cos, sin; f64 pairs) for `fftRun`. */
export function fftTable(out: usize, n: i32): void {
  for (let i = 0; i < n / 2; i++) {
    const a = (-2.0 * 3.141592653589793 * <f64>i) / <f64>n;
    store<f64>(out + (<usize>i << 4), NativeMath.cos(a));
    store<f64>(out + (<usize>i << 4), NativeMath.sin(a), 8);
  }
}

/** Transforms `n` complex f64 pairs at `x`; the result is not scaled. */
export function fftRun(x: usize, table: usize, n: i32): void {
  reorder(x, n);
  for (let size = 2; size <= n; size <<= 1) {
    const half = size >> 1;
    const step = n / size;
    for (let start = 0; start < n; start += size) {
      for (let k = 0; k < half; k++) {
        const w = table + (<usize>(k * step) << 4);
        const wi = load<f64>(w, 8);
        const a = x + (<usize>(start + k) << 4);
        const b = a + (<usize>half << 4);
        // (br, bi) times (wr, wi): both parts in one register.
        const other = v128.load(b);
        const across = v128.shuffle<f64>(other, other, 1, 0);
        const signs = f64x2.replace_lane(f64x2.splat(wi), 0, -wi);
        const t = f64x2.add(f64x2.mul(other, f64x2.splat(load<f64>(w))), f64x2.mul(across, signs));
        const one = v128.load(a);
        v128.store(a, f64x2.add(one, t));
        v128.store(b, f64x2.sub(one, t));
      }
    }
  }
}

function reorder(x: usize, n: i32): void {
  let j = 0;
  for (let i = 0; i < n; i++) {
    if (i < j) {
      const a = x + (<usize>i << 4), b = x + (<usize>j << 4);
      const t = v128.load(a);
      v128.store(a, v128.load(b));
      v128.store(b, t);
    }
    let bit = n >> 1;
    for (; bit > 0 && j & bit; bit >>= 1) j ^= bit;
    j |= bit;
  }
}

/** Adds the power |X|^2 of bins 0 to n/2 of the real signal at `src` (f32), windowed by `window` (f64), to `power`. */
export function powerAdd(src: usize, window: usize, scratch: usize, table: usize, n: i32, power: usize): void {
  for (let i = 0; i < n; i++) {
    store<f64>(scratch + (<usize>i << 4), <f64>load<f32>(src + (<usize>i << 2)) * load<f64>(window + (<usize>i << 3)));
    store<f64>(scratch + (<usize>i << 4), 0, 8);
  }
  fftRun(scratch, table, n);
  for (let i = 0; i <= n / 2; i++) {
    const re = load<f64>(scratch + (<usize>i << 4)), im = load<f64>(scratch + (<usize>i << 4), 8);
    const at = power + (<usize>i << 3);
    store<f64>(at, load<f64>(at) + re * re + im * im);
  }
}

/**
 * The same of two real signals at once, the one as real, the other as imaginary part of one transform: of Z = A + iB
 * with A and B those of real signals, |Z[k]|^2 + |Z[n-k]|^2 is 2 (|A[k]|^2 + |B[k]|^2).
 */
export function powerAddTwo(a: usize, b: usize, window: usize, scratch: usize, table: usize, n: i32, power: usize): void {
  for (let i = 0; i < n; i++) {
    const w = load<f64>(window + (<usize>i << 3));
    const z = scratch + (<usize>i << 4);
    store<f64>(z, <f64>load<f32>(a + (<usize>i << 2)) * w);
    store<f64>(z, <f64>load<f32>(b + (<usize>i << 2)) * w, 8);
  }
  fftRun(scratch, table, n);
  for (let i = 0; i <= n / 2; i++) {
    const z = scratch + (<usize>i << 4), y = scratch + (<usize>((n - i) & (n - 1)) << 4);
    const zr = load<f64>(z), zi = load<f64>(z, 8), yr = load<f64>(y), yi = load<f64>(y, 8);
    const at = power + (<usize>i << 3);
    store<f64>(at, load<f64>(at) + 0.5 * (zr * zr + zi * zi + yr * yr + yi * yi));
  }
}
