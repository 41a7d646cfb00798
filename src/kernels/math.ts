// JavaScript engines may differ in the last bit of these; WebAssembly does not. Whatever decides a
// sample's value asks here.
export function sin(x: f64): f64 {
  return NativeMath.sin(x);
}

export function cos(x: f64): f64 {
  return NativeMath.cos(x);
}

/** Decibels to linear gain: 10^(dB/20); minus infinity gives 0. */
export function dbToGain(db: f64): f64 {
  return db <= -200.0 ? 0.0 : NativeMath.pow(10.0, db / 20.0);
}

/** Linear gain to decibels: 20 log10 |g|. */
export function gainToDb(g: f64): f64 {
  return 20.0 * NativeMath.log10(abs(g));
}

/** One-pole coefficient that covers 1 - 1/e of a step in `seconds`, updated `rate` times a second. */
export function onePole(seconds: f64, rate: f64): f64 {
  return seconds <= 0.0 ? 0.0 : NativeMath.exp(-1.0 / (seconds * rate));
}

/** Modified Bessel function of the first kind, order zero, by its power series: the Kaiser window's. */
export function bessel0(x: f64): f64 {
  let sum = 1.0;
  let term = 1.0;
  for (let k = 1; k < 60; k++) {
    const h = x / (2.0 * <f64>k);
    term *= h * h;
    sum += term;
  }
  return sum;
}
