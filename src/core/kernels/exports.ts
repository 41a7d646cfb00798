// Written by scripts/kernelFace.ts from what src/kernels exports.
/** Addresses are byte offsets into the kernels' memory; see src/kernels for what each function does. */
export interface KernelExports {
  memory: WebAssembly.Memory;
  alloc(bytes: number): number;
  release(ptr: number): void;
  clear(ptr: number, n: number): void;
  copy(dst: number, src: number, n: number): void;
  sin(x: number): number;
  cos(x: number): number;
  dbToGain(db: number): number;
  gainToDb(g: number): number;
  onePole(seconds: number, rate: number): number;
  bessel0(x: number): number;
  rampInit(ramp: number, gain: number): void;
  rampTo(ramp: number, gain: number, samples: number): void;
  rampValue(ramp: number): number;
  mixRamp(ramp: number, src: number, dst: number, n: number): void;
  scaleRamp(ramp: number, buf: number, n: number): void;
  mix(src: number, dst: number, n: number, gain: number): void;
  scale(buf: number, n: number, gain: number): void;
  clip(buf: number, n: number, ceiling: number): number;
  laneFill(out: number, n: number, first: number, frames: number, a: number, b: number, shape: number): void;
  laneGains(values: number, n: number): void;
  laneFade(values: number, n: number, first: number, frames: number, offset: number): void;
  laneScale(gains: number, buf: number, n: number): void;
  mixLine(src: number, dst: number, n: number, first: number, frames: number, a: number, b: number): void;
  fadeRun(buf: number, n: number, first: number, frames: number, curve: number, falling: boolean): void;
  designHighPass(out: number, rate: number, freq: number, q: number): void;
  designLowPass(out: number, rate: number, freq: number, q: number): void;
  designHighPass1(out: number, rate: number, freq: number): void;
  designLowPass1(out: number, rate: number, freq: number): void;
  designLowCut(out: number, rate: number, freq: number, order: number): number;
  designHighCut(out: number, rate: number, freq: number, order: number): number;
  designBell(out: number, rate: number, freq: number, q: number, db: number): void;
  designLowShelf(out: number, rate: number, freq: number, q: number, db: number): void;
  designHighShelf(out: number, rate: number, freq: number, q: number, db: number): void;
  response(coefs: number, sections: number, rate: number, freqs: number, out: number, n: number): void;
  designNotch(out: number, rate: number, freq: number, q: number): void;
  designBandPass(out: number, rate: number, freq: number, q: number): void;
  complexResponse(coefs: number, sections: number, rate: number, freqs: number, out: number, n: number): void;
  biquadSet(section: number, coefs: number, samples: number): void;
  biquadChain(list: number, count: number, buf: number, n: number): void;
  biquadChannels(lists: number, count: number, table: number, channels: number, n: number): void;
  biquadPair(p: number, q: number, count: number, a: number, b: number, n: number): void;
  compressorCurve(level: number, threshold: number, ratio: number, knee: number): number;
  gateCurve(level: number, threshold: number, ratio: number, range: number): number;
  levelDb(x: number): number;
  linear(db: number): number;
  dynamicsBytes(channels: number): number;
  dynamicsInit(p: number, kind: number, channels: number): void;
  compressorSet(
    p: number,
    rate: number,
    threshold: number,
    ratio: number,
    knee: number,
    makeup: number,
    attack: number,
    rel: number,
    window: number,
    linked: number,
  ): void;
  gateSet(
    p: number,
    rate: number,
    threshold: number,
    ratio: number,
    range: number,
    attack: number,
    hold: number,
    rel: number,
    hysteresis: number,
    linked: number,
  ): void;
  dynamicsRun(p: number, chans: number, keys: number, keyCount: number, n: number): void;
  dynamicsReduction(p: number): number;
  limiterBytes(channels: number): number;
  limiterInit(p: number, channels: number, window: number, delay: number, truePeaks: number): void;
  limiterFree(p: number): void;
  limiterSet(p: number, rate: number, ceilingDb: number, rel: number, linked: number, on: number): void;
  limiterRun(p: number, chans: number, n: number): void;
  limiterDetect(p: number, chans: number, n: number, curve: number): void;
  applyCurve(buf: number, curve: number, n: number): void;
  limiterReduction(p: number): number;
  delayRun(line: number, size: number, index: number, buf: number, n: number): number;
  tapInit(p: number, longest: number, fade: number): void;
  tapFree(p: number): void;
  tapSet(p: number, delay: number, now: number): void;
  tapRun(p: number, buf: number, n: number): void;
  loudnessInit(p: number, rate: number, channels: number, hop: number, weights: number): void;
  loudnessFree(p: number): void;
  loudnessReset(p: number): void;
  designK(out: number, rate: number): void;
  loudnessRun(p: number, chans: number, n: number, out: number): number;
  truePeakRun(p: number, src: number, n: number): void;
  peakAbs(buf: number, n: number): number;
  product(a: number, b: number, n: number): number;
  sum(buf: number, n: number): number;
  largestDifference(a: number, b: number, n: number): number;
  firstAbove(buf: number, n: number, threshold: number): number;
  countFrom(buf: number, n: number, threshold: number): number;
  fftTableBytes(n: number): number;
  fftTable(out: number, n: number): void;
  fftRun(re: number, im: number, re2: number, im2: number, table: number, tableSize: number, n: number): void;
  powerAdd(a: number, b: number, window: number, scratch: number, table: number, n: number, power: number): void;
  panGains(azimuth: number, distance: number, angles: number, count: number, out: number): void;
  swapBytes(buf: number, count: number, size: number): void;
  decode(format: number, src: number, channels: number, frames: number, chans: number): void;
  encode(format: number, chans: number, channels: number, frames: number, dst: number, dither: number): number;
  encodeShaped(
    format: number,
    chans: number,
    channels: number,
    frames: number,
    dst: number,
    dither: number,
    errors: number,
  ): number;
  peakBins(src: number, n: number, bin: number, out: number): number;
  peakPairs(chans: number, channels: number, n: number, bin: number, out: number): number;
  resampleDesign(out: number, up: number, taps: number, cutoff: number, beta: number): void;
  resampleRun(
    src: number,
    coefs: number,
    up: number,
    down: number,
    taps: number,
    start: bigint,
    dst: number,
    n: number,
  ): void;
  steepDesign(out: number, n: number, half: number, cutoff: number, beta: number, work: number, table: number): void;
  steepRun(
    a: number,
    b: number,
    n: number,
    half: number,
    gains: number,
    work: number,
    table: number,
    outA: number,
    outB: number,
  ): void;
  noiseAdd(state: number, buf: number, n: number, gain: number): void;
  sineAdd(buf: number, n: number, phase: number, step: number, gain: number): number;
  reverbInit(p: number, inputs: number, outputs: number, sizes: number, preDelay: number, seed: number): void;
  reverbFree(p: number): void;
  reverbSet(p: number, rate: number, decay: number, bright: number, glide: number): void;
  reverbRun(p: number, ins: number, outs: number, n: number): void;
  hilbertInit(p: number, half: number): void;
  hilbertFree(p: number): void;
  hilbertRun(p: number, buf: number, shifted: number, n: number, scratch: number): void;
}

export const TRUEPEAK_HISTORY = 31;
export const RAMP_BYTES = 32;
export const BIQUAD_BYTES = 168;
export const HOP = 16;
export const TAP_BYTES = 32;
export const LOUDNESS_BYTES = 112;
export const TRUEPEAK_BYTES = 160;
export const SHAPE_BYTES = 40;
export const REVERB_BYTES = 384;
export const HILBERT_BYTES = 16;
