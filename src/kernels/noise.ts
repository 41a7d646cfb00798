/** Adds white noise, uniform in ±gain, from the generator whose u32 state (not 0) is at `state`. */
export function noiseAdd(state: usize, buf: usize, n: i32, gain: f32): void {
  let s = load<u32>(state);
  for (let i = 0; i < n; i++) {
    s ^= s << 13;
    s ^= s >> 17;
    s ^= s << 5;
    const at = buf + (<usize>i << 2);
    store<f32>(at, load<f32>(at) + gain * <f32>(<f64>(<i32>s) / 2147483648.0));
  }
  store<u32>(state, s);
}

/** Adds a sine; returns the phase (radians) at which the next block starts. */
export function sineAdd(buf: usize, n: i32, phase: f64, step: f64, gain: f64): f64 {
  for (let i = 0; i < n; i++) {
    const at = buf + (<usize>i << 2);
    store<f32>(at, load<f32>(at) + <f32>(gain * NativeMath.sin(phase + step * <f64>i)));
  }
  const end = phase + step * <f64>n;
  return end - NativeMath.floor(end / 6.283185307179586) * 6.283185307179586;
}
