// A phase shift of 90 degrees at all frequencies: the ideal transformer 2/(pi k) for odd k (Oppenheim and
// Schafer, Discrete-Time Signal Processing, ch. 12), cut by a Kaiser window; the sound comes `half` samples late.
// {half i32 @0, taps u32 @4 (f32 for k = 1, 3, 5 ...), history u32 @8 (2 half f32)}
import { bessel0 } from './math';

export const HILBERT_BYTES: i32 = 16;
const BETA: f64 = 6.0;

/** `half`: taps on either side, odd; they decide the lowest frequency that keeps its level. */
export function hilbertInit(p: usize, half: i32): void {
  store<i32>(p, half);
  const count = (half + 1) >> 1;
  const taps = heap.alloc(<usize>count << 2);
  for (let i = 0; i < count; i++) {
    const k = <f64>(2 * i + 1);
    const r = k / <f64>(half + 1);
    const w = bessel0(BETA * sqrt(1.0 - r * r)) / bessel0(BETA);
    store<f32>(taps + (<usize>i << 2), <f32>((2.0 / (3.141592653589793 * k)) * w));
  }
  store<u32>(p, <u32>taps, 4);
  const history = heap.alloc(<usize>(2 * half) << 2);
  memory.fill(history, 0, <usize>(2 * half) << 2);
  store<u32>(p, <u32>history, 8);
}

export function hilbertFree(p: usize): void {
  heap.free(load<u32>(p, 4));
  heap.free(load<u32>(p, 8));
}

/**
 * Writes to `shifted` the sound of `buf` with its phase advanced by 90 degrees, and to `buf` itself the sound
 * as it was, both `half` samples late. `scratch` has room for n + 2 half f32.
 */
export function hilbertRun(p: usize, buf: usize, shifted: usize, n: i32, scratch: usize): void {
  const half = load<i32>(p);
  const taps = <usize>load<u32>(p, 4);
  const history = <usize>load<u32>(p, 8);
  const bytes = <usize>(2 * half) << 2;
  memory.copy(scratch, history, bytes);
  memory.copy(scratch + bytes, buf, <usize>n << 2);
  memory.copy(history, scratch + (<usize>n << 2), bytes);
  const middle = scratch + (<usize>half << 2);
  memory.copy(buf, middle, <usize>n << 2);
  const count = (half + 1) >> 1;
  let i = 0;
  for (; i + 4 <= n; i += 4) {
    const at = middle + (<usize>i << 2);
    let sum: v128 = f32x4.splat(0);
    for (let t = 0; t < count; t++) {
      const k = <usize>(2 * t + 1) << 2;
      const d = f32x4.sub(v128.load(at + k), v128.load(at - k));
      sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(taps + (<usize>t << 2)), d));
    }
    v128.store(shifted + (<usize>i << 2), sum);
  }
  for (; i < n; i++) {
    const at = middle + (<usize>i << 2);
    let sum: f32 = 0;
    for (let t = 0; t < count; t++) {
      const k = <usize>(2 * t + 1) << 2;
      sum += load<f32>(taps + (<usize>t << 2)) * (load<f32>(at + k) - load<f32>(at - k));
    }
    store<f32>(shifted + (<usize>i << 2), sum);
  }
}
