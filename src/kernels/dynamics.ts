// What compressor and gate share: level is looked at in hops of 16 samples, counted from the first
// sample ever processed (so block sizes do not matter); gain glides linearly over the next hop.
export const HOP: i32 = 16;

/** Largest magnitude over all channels of samples [from, from + n). `chans`: array of addresses. */
// @ts-ignore: decorator
@inline
export function peakOf(chans: usize, count: i32, from: i32, n: i32): f32 {
  let top: f32 = 0;
  for (let c = 0; c < count; c++) {
    const buf = <usize>load<u32>(chans + (<usize>c << 2)) + (<usize>from << 2);
    if (n == HOP) {
      const v = f32x4.max(
        f32x4.max(f32x4.abs(v128.load(buf)), f32x4.abs(v128.load(buf, 16))),
        f32x4.max(f32x4.abs(v128.load(buf, 32)), f32x4.abs(v128.load(buf, 48))),
      );
      const a = max(f32x4.extract_lane(v, 0), f32x4.extract_lane(v, 1));
      top = max(top, max(a, max(f32x4.extract_lane(v, 2), f32x4.extract_lane(v, 3))));
    } else {
      for (let i = 0; i < n; i++) top = max(top, abs(load<f32>(buf + (<usize>i << 2))));
    }
  }
  return top;
}

/** Multiplies samples [from, from + n) of all channels by a line from g0 at hop start to g1 at its end. */
// @ts-ignore: decorator
@inline
export function applyHop(chans: usize, count: i32, from: i32, n: i32, phase: i32, g0: f32, g1: f32): void {
  if (g0 == 1 && g1 == 1) return;
  const slope = (g1 - g0) / <f32>HOP;
  for (let c = 0; c < count; c++) {
    const buf = <usize>load<u32>(chans + (<usize>c << 2)) + (<usize>from << 2);
    const end = n & ~3;
    const g = f32x4.splat(g0);
    const s = f32x4.splat(slope);
    let i = 0;
    for (; i < end; i += 4) {
      const at = buf + (<usize>i << 2);
      const k = f32x4.add(f32x4.splat(<f32>(phase + i + 1)), f32x4(0, 1, 2, 3));
      v128.store(at, f32x4.mul(v128.load(at), f32x4.add(g, f32x4.mul(s, k))));
    }
    for (; i < n; i++) {
      const at = buf + (<usize>i << 2);
      store<f32>(at, load<f32>(at) * (g0 + slope * <f32>(phase + i + 1)));
    }
  }
}

// 20 log10(x) and its inverse by way of base 2.
// @ts-ignore: decorator
@inline
export function levelDb(x: f32): f32 {
  return <f32>6.0205999 * NativeMathf.log2(x);
}

// @ts-ignore: decorator
@inline
export function linear(db: f32): f32 {
  return NativeMathf.exp2(db * <f32>0.16609640);
}
