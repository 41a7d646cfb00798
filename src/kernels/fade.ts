// Laws of a fade, by their numbers in src/core/session/fades.ts.
const EVEN: i32 = 0;
const POWER: i32 = 1;

/** Gain of a rising fade at `p` of 0 to 1. */
@inline
function law(curve: i32, p: f64): f64 {
  if (curve == EVEN) return p;
  const quarter = 1.5707963267948966 * p;
  if (curve == POWER) return NativeMath.sin(quarter);
  const s = NativeMath.sin(quarter);
  return s * s;
}

/**
 * Multiplies `n` samples by a fade of `frames` frames, from its frame `first` on. Frame i stands at (i + 1/2) / frames,
 * so that rising and falling are each other's mirror image.
 */
export function fadeRun(buf: usize, n: i32, first: i32, frames: i32, curve: i32, falling: bool): void {
  const step = 1.0 / <f64>frames;
  for (let i = 0; i < n; i++) {
    const p = (<f64>(first + i) + 0.5) * step;
    const at = buf + (<usize>i << 2);
    store<f32>(at, <f32>(<f64>load<f32>(at) * law(curve, falling ? 1.0 - p : p)));
  }
}
