/**
 * Gain change in dB (<= 0) of a compressor's static curve at `level` dB: soft knee of Giannoulis, Massberg
 * and Reiss, "Digital Dynamic Range Compressor Design", J. Audio Eng. Soc. 60(6), 2012.
 */
export function compressorCurve(level: f32, threshold: f32, ratio: f32, knee: f32): f32 {
  const over = level - threshold;
  const slope = <f32>1 / ratio - <f32>1;
  if (knee > 0 && abs(over) * 2 <= knee) {
    const t = over + knee * <f32>0.5;
    return (slope * t * t) / (<f32>2 * knee);
  }
  return over > 0 ? slope * over : 0;
}

/** Gain change in dB (<= 0) of an expander's static curve: `ratio` dB down for each dB below threshold. */
export function gateCurve(level: f32, threshold: f32, ratio: f32, range: f32): f32 {
  if (level >= threshold) return 0;
  return max(range, (level - threshold) * (ratio - 1));
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
