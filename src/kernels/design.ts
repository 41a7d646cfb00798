// Second-order sections after Bristow-Johnson, "Cookbook formulae for audio equalizer biquad filter
// coefficients". Each writes {b0, b1, b2, a1, a2} as f64, normalised by a0, to `out`.
const PI: f64 = 3.141592653589793;

function put(out: usize, b0: f64, b1: f64, b2: f64, a0: f64, a1: f64, a2: f64): void {
  store<f64>(out, b0 / a0, 0);
  store<f64>(out, b1 / a0, 8);
  store<f64>(out, b2 / a0, 16);
  store<f64>(out, a1 / a0, 24);
  store<f64>(out, a2 / a0, 32);
}

export function designHighPass(out: usize, rate: f64, freq: f64, q: f64): void {
  const w = (2.0 * PI * freq) / rate;
  const c = NativeMath.cos(w);
  const alpha = NativeMath.sin(w) / (2.0 * q);
  put(out, (1.0 + c) / 2.0, -(1.0 + c), (1.0 + c) / 2.0, 1.0 + alpha, -2.0 * c, 1.0 - alpha);
}

export function designLowPass(out: usize, rate: f64, freq: f64, q: f64): void {
  const w = (2.0 * PI * freq) / rate;
  const c = NativeMath.cos(w);
  const alpha = NativeMath.sin(w) / (2.0 * q);
  put(out, (1.0 - c) / 2.0, 1.0 - c, (1.0 - c) / 2.0, 1.0 + alpha, -2.0 * c, 1.0 - alpha);
}

/** First-order high-pass by the bilinear transform, as a section with b2 = a2 = 0. */
export function designHighPass1(out: usize, rate: f64, freq: f64): void {
  const k = NativeMath.tan((PI * freq) / rate);
  put(out, 1.0, -1.0, 0.0, 1.0 + k, k - 1.0, 0.0);
}

/** First-order low-pass by the bilinear transform. */
export function designLowPass1(out: usize, rate: f64, freq: f64): void {
  const k = NativeMath.tan((PI * freq) / rate);
  put(out, k, k, 0.0, 1.0 + k, k - 1.0, 0.0);
}

/** Butterworth low cut of `order` 1 to 8 as a cascade; returns the number of sections. */
export function designLowCut(out: usize, rate: f64, freq: f64, order: i32): i32 {
  let n = 0;
  for (let k = 0; k < order >> 1; k++) {
    const q = 1.0 / (2.0 * NativeMath.sin((PI * <f64>(2 * k + 1)) / <f64>(2 * order)));
    designHighPass(out + n * 40, rate, freq, q);
    n++;
  }
  if (order & 1) {
    designHighPass1(out + n * 40, rate, freq);
    n++;
  }
  return n;
}

/** Butterworth high cut of `order` 1 to 8 as a cascade; returns the number of sections. */
export function designHighCut(out: usize, rate: f64, freq: f64, order: i32): i32 {
  let n = 0;
  for (let k = 0; k < order >> 1; k++) {
    const q = 1.0 / (2.0 * NativeMath.sin((PI * <f64>(2 * k + 1)) / <f64>(2 * order)));
    designLowPass(out + n * 40, rate, freq, q);
    n++;
  }
  if (order & 1) {
    designLowPass1(out + n * 40, rate, freq);
    n++;
  }
  return n;
}

export function designBell(out: usize, rate: f64, freq: f64, q: f64, db: f64): void {
  const a = NativeMath.pow(10.0, db / 40.0);
  const w = (2.0 * PI * freq) / rate;
  const c = NativeMath.cos(w);
  const alpha = NativeMath.sin(w) / (2.0 * q);
  put(out, 1.0 + alpha * a, -2.0 * c, 1.0 - alpha * a, 1.0 + alpha / a, -2.0 * c, 1.0 - alpha / a);
}

export function designLowShelf(out: usize, rate: f64, freq: f64, q: f64, db: f64): void {
  const a = NativeMath.pow(10.0, db / 40.0);
  const w = (2.0 * PI * freq) / rate;
  const c = NativeMath.cos(w);
  const s = (NativeMath.sin(w) / (2.0 * q)) * 2.0 * sqrt(a);
  put(
    out,
    a * (a + 1.0 - (a - 1.0) * c + s),
    2.0 * a * (a - 1.0 - (a + 1.0) * c),
    a * (a + 1.0 - (a - 1.0) * c - s),
    a + 1.0 + (a - 1.0) * c + s,
    -2.0 * (a - 1.0 + (a + 1.0) * c),
    a + 1.0 + (a - 1.0) * c - s,
  );
}

export function designHighShelf(out: usize, rate: f64, freq: f64, q: f64, db: f64): void {
  const a = NativeMath.pow(10.0, db / 40.0);
  const w = (2.0 * PI * freq) / rate;
  const c = NativeMath.cos(w);
  const s = (NativeMath.sin(w) / (2.0 * q)) * 2.0 * sqrt(a);
  put(
    out,
    a * (a + 1.0 + (a - 1.0) * c + s),
    -2.0 * a * (a - 1.0 + (a + 1.0) * c),
    a * (a + 1.0 + (a - 1.0) * c - s),
    a + 1.0 - (a - 1.0) * c + s,
    2.0 * (a - 1.0 - (a + 1.0) * c),
    a + 1.0 - (a - 1.0) * c - s,
  );
}

/** Magnitude in dB at `n` frequencies (f64, Hz) of a cascade of `sections` sections. */
export function response(coefs: usize, sections: i32, rate: f64, freqs: usize, out: usize, n: i32): void {
  for (let i = 0; i < n; i++) {
    const w = (2.0 * PI * load<f64>(freqs + (<usize>i << 3))) / rate;
    const c1 = NativeMath.cos(w);
    const s1 = NativeMath.sin(w);
    const c2 = NativeMath.cos(2.0 * w);
    const s2 = NativeMath.sin(2.0 * w);
    let power = 1.0;
    for (let k = 0; k < sections; k++) {
      const p = coefs + k * 40;
      const b0 = load<f64>(p, 0), b1 = load<f64>(p, 8), b2 = load<f64>(p, 16);
      const a1 = load<f64>(p, 24), a2 = load<f64>(p, 32);
      const nr = b0 + b1 * c1 + b2 * c2, ni = b1 * s1 + b2 * s2;
      const dr = 1.0 + a1 * c1 + a2 * c2, di = a1 * s1 + a2 * s2;
      power *= (nr * nr + ni * ni) / (dr * dr + di * di);
    }
    store<f64>(out + (<usize>i << 3), 10.0 * NativeMath.log10(max(power, 1e-30)));
  }
}

export function designNotch(out: usize, rate: f64, freq: f64, q: f64): void {
  const w = (2.0 * PI * freq) / rate;
  const c = NativeMath.cos(w);
  const alpha = NativeMath.sin(w) / (2.0 * q);
  put(out, 1.0, -2.0 * c, 1.0, 1.0 + alpha, -2.0 * c, 1.0 - alpha);
}

/** Band-pass of 0 dB at its centre. */
export function designBandPass(out: usize, rate: f64, freq: f64, q: f64): void {
  const w = (2.0 * PI * freq) / rate;
  const c = NativeMath.cos(w);
  const alpha = NativeMath.sin(w) / (2.0 * q);
  put(out, alpha, 0.0, -alpha, 1.0 + alpha, -2.0 * c, 1.0 - alpha);
}

/** Complex response (real, imaginary f64 pairs) at `n` frequencies (f64, Hz) of a cascade. */
export function complexResponse(coefs: usize, sections: i32, rate: f64, freqs: usize, out: usize, n: i32): void {
  for (let i = 0; i < n; i++) {
    const w = (2.0 * PI * load<f64>(freqs + (<usize>i << 3))) / rate;
    const c1 = NativeMath.cos(w), s1 = -NativeMath.sin(w);
    const c2 = NativeMath.cos(2.0 * w), s2 = -NativeMath.sin(2.0 * w);
    let re = 1.0, im = 0.0;
    for (let k = 0; k < sections; k++) {
      const p = coefs + k * 40;
      const b0 = load<f64>(p, 0), b1 = load<f64>(p, 8), b2 = load<f64>(p, 16);
      const a1 = load<f64>(p, 24), a2 = load<f64>(p, 32);
      const nr = b0 + b1 * c1 + b2 * c2, ni = b1 * s1 + b2 * s2;
      const dr = 1.0 + a1 * c1 + a2 * c2, di = a1 * s1 + a2 * s2;
      const d = dr * dr + di * di;
      const hr = (nr * dr + ni * di) / d, hi = (ni * dr - nr * di) / d;
      const t = re * hr - im * hi;
      im = re * hi + im * hr;
      re = t;
    }
    store<f64>(out + (<usize>i << 4), re);
    store<f64>(out + (<usize>i << 4), im, 8);
  }
}
