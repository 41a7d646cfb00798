/** Smallest and largest sample of each bin of `bin` samples, as f32 pairs; the last bin may be shorter. */
export function peakBins(src: usize, n: i32, bin: i32, out: usize): i32 {
  let bins = 0;
  for (let i = 0; i < n; i += bin) {
    const part = min(bin, n - i);
    const from = src + (<usize>i << 2);
    let low: f32 = load<f32>(from);
    let high = low;
    const end = part & ~3;
    let k = 0;
    if (end > 0) {
      let lo = v128.load(from);
      let hi = lo;
      for (k = 4; k < end; k += 4) {
        const v = v128.load(from + (<usize>k << 2));
        lo = f32x4.min(lo, v);
        hi = f32x4.max(hi, v);
      }
      low = min(min(f32x4.extract_lane(lo, 0), f32x4.extract_lane(lo, 1)), min(f32x4.extract_lane(lo, 2), f32x4.extract_lane(lo, 3)));
      high = max(max(f32x4.extract_lane(hi, 0), f32x4.extract_lane(hi, 1)), max(f32x4.extract_lane(hi, 2), f32x4.extract_lane(hi, 3)));
    }
    for (; k < part; k++) {
      const x = load<f32>(from + (<usize>k << 2));
      low = min(low, x);
      high = max(high, x);
    }
    const at = out + (<usize>bins << 3);
    store<f32>(at, low, 0);
    store<f32>(at, high, 4);
    bins++;
  }
  return bins;
}
