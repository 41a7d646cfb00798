import { HOP, applyHop, levelDb, linear, peakOf } from './dynamics';

// {threshold, ratio, range (<= 0): f32 @0..8; attack, release poles f32 @12, 16; hold hops i32 @20;
//  reduction f32 @24; gain from, to f32 @28, 32; phase i32 @36; peak f32 @40; lowest @44; held i32 @48}
export const GATE_BYTES: i32 = 64;

export function gateInit(p: usize): void {
  store<f32>(p, 1, 28);
  store<f32>(p, 1, 32);
  store<f32>(p, 1, 4);
}

/** Threshold and range in dB (range is the most it takes away, <= 0); ratio >= 1; times in seconds. */
export function gateSet(
  p: usize, rate: f64, threshold: f64, ratio: f64, range: f64, attack: f64, hold: f64, rel: f64,
): void {
  store<f32>(p, <f32>threshold, 0);
  store<f32>(p, <f32>ratio, 4);
  store<f32>(p, <f32>range, 8);
  const hops = rate / <f64>HOP;
  store<f32>(p, attack <= 0.0 ? 0 : <f32>NativeMath.exp(-1.0 / (attack * hops)), 12);
  store<f32>(p, rel <= 0.0 ? 0 : <f32>NativeMath.exp(-1.0 / (rel * hops)), 16);
  store<i32>(p, <i32>(hold * hops), 20);
}

/** Gain change in dB (<= 0) of the static curve: `ratio` dB down for each dB below threshold. */
export function gateCurve(level: f32, threshold: f32, ratio: f32, range: f32): f32 {
  if (level >= threshold) return 0;
  return max(range, (level - threshold) * (ratio - 1));
}

/** All channels share one gain (linked). */
export function gateRun(p: usize, chans: usize, count: i32, n: i32): void {
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
  const level = levelDb(max(load<f32>(p, 40), <f32>1e-8));
  const was = load<f32>(p, 24);
  let want = gateCurve(level, load<f32>(p, 0), load<f32>(p, 4), load<f32>(p, 8));
  if (want >= was) {
    store<i32>(p, load<i32>(p, 20), 48);
  } else if (load<i32>(p, 48) > 0) {
    store<i32>(p, load<i32>(p, 48) - 1, 48);
    want = was;
  }
  const pole = want > was ? load<f32>(p, 12) : load<f32>(p, 16);
  let reduction = want + pole * (was - want);
  if (reduction > <f32>-0.0001) reduction = 0;
  store<f32>(p, reduction, 24);
  store<f32>(p, load<f32>(p, 32), 28);
  store<f32>(p, reduction == 0 ? <f32>1 : linear(reduction), 32);
  store<f32>(p, 0, 40);
  if (reduction < load<f32>(p, 44)) store<f32>(p, reduction, 44);
}

/** Deepest gain reduction (dB, <= 0) since the last call. */
export function gateReduction(p: usize): f32 {
  const low = load<f32>(p, 44);
  store<f32>(p, load<f32>(p, 24), 44);
  return low;
}
