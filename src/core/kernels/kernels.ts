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
  gainToDb(gain: number): number;
  rampInit(ramp: number, gain: number): void;
  rampTo(ramp: number, gain: number, samples: number): void;
  rampValue(ramp: number): number;
  mixRamp(ramp: number, src: number, dst: number, n: number): void;
  scaleRamp(ramp: number, buf: number, n: number): void;
  mix(src: number, dst: number, n: number, gain: number): void;
  scale(buf: number, n: number, gain: number): void;
  laneFill(out: number, n: number, first: number, frames: number, a: number, b: number, shape: number): void;
  laneGains(values: number, n: number): void;
  laneFade(values: number, n: number, first: number, frames: number, offset: number): void;
  laneScale(gains: number, buf: number, n: number): void;
  mixLine(src: number, dst: number, n: number, first: number, frames: number, a: number, b: number): void;
  fadeRun(buf: number, n: number, first: number, frames: number, curve: number, falling: number): void;
  clip(buf: number, n: number, ceiling: number): number;
  designHighPass(out: number, rate: number, freq: number, q: number): void;
  designLowPass(out: number, rate: number, freq: number, q: number): void;
  designLowCut(out: number, rate: number, freq: number, order: number): number;
  designHighCut(out: number, rate: number, freq: number, order: number): number;
  designBell(out: number, rate: number, freq: number, q: number, db: number): void;
  designLowShelf(out: number, rate: number, freq: number, q: number, db: number): void;
  designHighShelf(out: number, rate: number, freq: number, q: number, db: number): void;
  designNotch(out: number, rate: number, freq: number, q: number): void;
  designBandPass(out: number, rate: number, freq: number, q: number): void;
  designK(out: number, rate: number): void;
  complexResponse(coefs: number, sections: number, rate: number, freqs: number, out: number, n: number): void;
  response(coefs: number, sections: number, rate: number, freqs: number, out: number, n: number): void;
  biquadSet(section: number, coefs: number, samples: number): void;
  biquadChain(list: number, count: number, buf: number, n: number): void;
  biquadPair(listA: number, listB: number, count: number, a: number, b: number, n: number): void;
  biquadChannels(lists: number, count: number, table: number, channels: number, n: number): void;
  compressorCurve(level: number, threshold: number, ratio: number, knee: number): number;
  gateCurve(level: number, threshold: number, ratio: number, range: number): number;
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
    release: number,
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
    release: number,
    hysteresis: number,
    linked: number,
  ): void;
  dynamicsRun(p: number, chans: number, keys: number, keyCount: number, n: number): void;
  dynamicsReduction(p: number): number;
  limiterBytes(channels: number): number;
  limiterInit(p: number, channels: number, window: number, truePeaks: number): void;
  limiterFree(p: number): void;
  limiterSet(p: number, rate: number, ceilingDb: number, release: number, linked: number, on: number): void;
  limiterRun(p: number, chans: number, n: number): void;
  limiterDetect(p: number, chans: number, n: number, curve: number): void;
  applyCurve(buf: number, curve: number, n: number): void;
  limiterReduction(p: number): number;
  tapInit(p: number, longest: number, fade: number): void;
  tapFree(p: number): void;
  tapSet(p: number, delay: number, now: number): void;
  tapRun(p: number, buf: number, n: number): void;
  reverbInit(p: number, inputs: number, outputs: number, sizes: number, preDelay: number, seed: number): void;
  reverbFree(p: number): void;
  reverbSet(p: number, rate: number, decay: number, bright: number, glide: number): void;
  reverbRun(p: number, ins: number, outs: number, n: number): void;
  delayRun(line: number, size: number, index: number, buf: number, n: number): number;
  loudnessInit(p: number, rate: number, channels: number, hop: number, weights: number): void;
  loudnessFree(p: number): void;
  loudnessReset(p: number): void;
  loudnessRun(p: number, chans: number, n: number, out: number): number;
  truePeakRun(p: number, src: number, n: number): void;
  peakAbs(buf: number, n: number): number;
  product(a: number, b: number, n: number): number;
  sum(buf: number, n: number): number;
  countFrom(buf: number, n: number, threshold: number): number;
  fftTable(out: number, n: number): void;
  fftRun(x: number, table: number, n: number): void;
  powerAddTwo(a: number, b: number, window: number, scratch: number, table: number, n: number, power: number): void;
  powerAdd(src: number, window: number, scratch: number, table: number, n: number, power: number): void;
  largestDifference(a: number, b: number, n: number): number;
  firstAbove(buf: number, n: number, threshold: number): number;
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
  peakPairs(chans: number, channels: number, n: number, bin: number, out: number): number;
  peakBins(src: number, n: number, bin: number, out: number): number;
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
  noiseAdd(state: number, buf: number, n: number, gain: number): void;
  sineAdd(buf: number, n: number, phase: number, step: number, gain: number): number;
  hilbertInit(p: number, half: number): void;
  hilbertFree(p: number): void;
  hilbertRun(p: number, buf: number, shifted: number, n: number, scratch: number): void;
  RAMP_BYTES: WebAssembly.Global;
  HILBERT_BYTES: WebAssembly.Global;
  BIQUAD_BYTES: WebAssembly.Global;
  TAP_BYTES: WebAssembly.Global;
  REVERB_BYTES: WebAssembly.Global;
  LOUDNESS_BYTES: WebAssembly.Global;
  TRUEPEAK_BYTES: WebAssembly.Global;
  SHAPE_BYTES: WebAssembly.Global;
}

/**
 * One instance of the kernels with its memory. Views are made anew when the memory has grown, so never
 * keep one across an allocation.
 *
 *   const k = new Kernels(await WebAssembly.compile(bytes));
 *   const buf = k.x.alloc(4 * 128);
 *   k.f32(buf, 128).fill(0.5);
 *   k.x.scale(buf, 128, 0.5);
 */
export class Kernels {
  readonly x: KernelExports;
  private floats = new Float32Array(0);
  private words = new Uint32Array(0);

  constructor(readonly module: WebAssembly.Module) {
    this.x = new WebAssembly.Instance(module, {}).exports as unknown as KernelExports;
  }

  /** The whole memory as f32; index = address / 4. */
  get heap(): Float32Array {
    if (this.floats.buffer !== this.x.memory.buffer) this.floats = new Float32Array(this.x.memory.buffer);
    return this.floats;
  }

  /** The whole memory as u32; index = address / 4. */
  get heapU32(): Uint32Array {
    if (this.words.buffer !== this.x.memory.buffer) this.words = new Uint32Array(this.x.memory.buffer);
    return this.words;
  }

  f32(ptr: number, n: number): Float32Array {
    return new Float32Array(this.x.memory.buffer, ptr, n);
  }

  f64(ptr: number, n: number): Float64Array {
    return new Float64Array(this.x.memory.buffer, ptr, n);
  }

  bytes(ptr: number, n: number): Uint8Array {
    return new Uint8Array(this.x.memory.buffer, ptr, n);
  }

  u32(ptr: number, n: number): Uint32Array {
    return new Uint32Array(this.x.memory.buffer, ptr, n);
  }

  /** Allocates and fills an array of f64; the caller releases it. */
  putF64(values: ArrayLike<number>): number {
    const ptr = this.x.alloc(Math.max(8, values.length * 8));
    this.f64(ptr, values.length).set(values);
    return ptr;
  }

  /** Size of a kernel's state struct. */
  sizeOf(name: 'RAMP' | 'HILBERT' | 'BIQUAD' | 'TAP' | 'REVERB' | 'LOUDNESS' | 'TRUEPEAK' | 'SHAPE'): number {
    return this.x[`${name}_BYTES`].value as number;
  }

  /** Decibels to linear gain; at or below -200 dB: 0. */
  gain(db: number): number {
    return this.x.dbToGain(db);
  }
}
