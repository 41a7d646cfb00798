import { HOP, applyHop, levelDb, linear, peakOf } from './dynamics';

// {threshold, ratio, knee, makeup: f32 dB @0..12; attack, release: one-pole per hop f32 @16, 20;
//  reduction f32 dB @24; gain from, to f32 @28, 32; phase i32 @36; peak f32 @40; lowest reduction @44}
export const COMPRESSOR_BYTES: i32 = 48;

export function compressorInit(p: usize): void {
  store<f32>(p, 1, 28);
  store<f32>(p, 1, 32);
  store<f32>(p, 1, 4);
}

/** Threshold, knee, make-up in dB; ratio >= 1; attack and release in seconds. */
export function compressorSet(
  p: usize, rate: f64, threshold: f64, ratio: f64, knee: f64, makeup: f64, attack: f64, rel: f64,
): void {
  store<f32>(p, <f32>threshold, 0);
  store<f32>(p, <f32>ratio, 4);
  store<f32>(p, <f32>knee, 8);
  store<f32>(p, <f32>makeup, 12);
  const hops = rate / <f64>HOP;
  store<f32>(p, attack <= 0.0 ? 0 : <f32>NativeMath.exp(-1.0 / (attack * hops)), 16);
  store<f32>(p, rel <= 0.0 ? 0 : <f32>NativeMath.exp(-1.0 / (rel * hops)), 20);
}

/**
 * Gain change in dB (<= 0) of the static curve at `level` dB: soft knee of Giannoulis, Massberg and
 * Reiss, "Digital Dynamic Range Compressor Design", J. Audio Eng. Soc. 60(6), 2012.
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

/** All channels share one gain (linked). */
export function compressorRun(p: usize, chans: usize, count: i32, n: i32): void {
  let phase = load<i32>(p, 36);
  let i = 0;
  while (i < n) {
    const part = min(HOP - phase, n - i);
    store<f32>(p, max(load<f32>(p, 40), peakOf(chans, count, i, part)), 40);
    applyHop(chans, count, i, part, phase, load<f32>(p, 28), load<f32>(p, 32));
    i += part;
    phase += part;
    if (phase == HOP) {
      phase = 0;
      nextGain(p);
    }
  }
  store<i32>(p, phase, 36);
}

function nextGain(p: usize): void {
  const peak = load<f32>(p, 40);
  const threshold = load<f32>(p, 0);
  const knee = load<f32>(p, 8);
  const was = load<f32>(p, 24);
  const want: f32 = peak > <f32>1e-6 ? compressorCurve(levelDb(peak), threshold, load<f32>(p, 4), knee) : 0;
  const pole = want < was ? load<f32>(p, 16) : load<f32>(p, 20);
  let reduction = want + pole * (was - want);
  if (reduction > <f32>-0.0001) reduction = 0;
  store<f32>(p, reduction, 24);
  store<f32>(p, load<f32>(p, 32), 28);
  const total = reduction + load<f32>(p, 12);
  store<f32>(p, total == 0 ? <f32>1 : linear(total), 32);
  store<f32>(p, 0, 40);
  if (reduction < load<f32>(p, 44)) store<f32>(p, reduction, 44);
}

/** Deepest gain reduction (dB, <= 0) since the last call. */
export function compressorReduction(p: usize): f32 {
  const low = load<f32>(p, 44);
  store<f32>(p, load<f32>(p, 24), 44);
  return low;
}
