// Values that follow a lane, one f64 a sample, and gains that come of them.
import { dbToGain } from './math';

/** Way from `a` to `b` over `frames` samples, from sample `first` of it; shape 0 line, 1 step, 2 smooth. */
export function laneFill(out: usize, n: i32, first: f64, frames: f64, a: f64, b: f64, shape: i32): void {
  for (let i = 0; i < n; i++) {
    const x = (first + <f64>i) / frames;
    const y = shape == 0 ? x : shape == 1 ? 0.0 : x * x * (3.0 - 2.0 * x);
    store<f64>(out + (<usize>i << 3), a + (b - a) * y);
  }
}

/** Decibels to gains, in place. */
export function laneGains(values: usize, n: i32): void {
  for (let i = 0; i < n; i++) {
    const at = values + (<usize>i << 3);
    store<f64>(at, dbToGain(load<f64>(at)));
  }
}

/** Adds `offset`, which fades over `frames` samples, from sample `first` of them. */
export function laneFade(values: usize, n: i32, first: f64, frames: f64, offset: f64): void {
  for (let i = 0; i < n; i++) {
    const x = (first + <f64>i) / frames;
    if (x >= 1.0) return;
    const at = values + (<usize>i << 3);
    store<f64>(at, load<f64>(at) + offset * (1.0 - x));
  }
}

/** buf *= gains. */
export function laneScale(gains: usize, buf: usize, n: i32): void {
  for (let i = 0; i < n; i++) {
    const at = buf + (<usize>i << 2);
    store<f32>(at, load<f32>(at) * <f32>load<f64>(gains + (<usize>i << 3)));
  }
}

/** dst += src * a gain on its way from `a` to `b` over `frames` samples, from sample `first` of it. */
export function mixLine(src: usize, dst: usize, n: i32, first: f64, frames: f64, a: f64, b: f64): void {
  for (let i = 0; i < n; i++) {
    const at = <usize>i << 2;
    const g = <f32>(a + (b - a) * ((first + <f64>i) / frames));
    store<f32>(dst + at, load<f32>(dst + at) + load<f32>(src + at) * g);
  }
}
