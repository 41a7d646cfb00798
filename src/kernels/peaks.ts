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
        lo = f32x4.pmin(lo, v);
        hi = f32x4.pmax(hi, v);
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

/** Smallest and largest sample over all channels of each bin, as i16 pairs rounded outwards; returns the number of bins. */
export function peakPairs(chans: usize, channels: i32, n: i32, bin: i32, out: usize): i32 {
  let bins = 0;
  for (let i = 0; i < n; i += bin) {
    const part = min(bin, n - i);
    let lo = f32x4.splat(f32.MAX_VALUE), hi = f32x4.splat(-f32.MAX_VALUE);
    let low: f32 = f32.MAX_VALUE, high: f32 = -f32.MAX_VALUE;
    for (let c = 0; c < channels; c++) {
      const from = <usize>load<u32>(chans + (<usize>c << 2)) + (<usize>i << 2);
      const end = part & ~3;
      let k = 0;
      for (; k < end; k += 4) {
        const v = v128.load(from + (<usize>k << 2));
        lo = f32x4.pmin(lo, v);
        hi = f32x4.pmax(hi, v);
      }
      for (; k < part; k++) {
        const x = load<f32>(from + (<usize>k << 2));
        low = min(low, x);
        high = max(high, x);
      }
    }
    low = min(low, min(min(f32x4.extract_lane(lo, 0), f32x4.extract_lane(lo, 1)), min(f32x4.extract_lane(lo, 2), f32x4.extract_lane(lo, 3))));
    high = max(high, max(max(f32x4.extract_lane(hi, 0), f32x4.extract_lane(hi, 1)), max(f32x4.extract_lane(hi, 2), f32x4.extract_lane(hi, 3))));
    const at = out + (<usize>bins << 2);
    store<i16>(at, <i16>max(<f32>-32768, floor(low * <f32>32767)));
    store<i16>(at, <i16>min(<f32>32767, ceil(high * <f32>32767)), 2);
    bins++;
  }
  return bins;
}
