// The face of the kernels: every function here works on planar f32 blocks at raw addresses in one
// WebAssembly memory. src/core/kernels/exports.ts, which is
// written from what stands here, is their typed counterpart.
export * from './memory';
export * from './math';
export * from './gain';
export * from './lane';
export * from './fade';
export * from './design';
export * from './biquad';
export * from './dynamicsCurves';
export * from './dynamics';
export * from './limiter';
export * from './delay';
export * from './loudness';
export { TRUEPEAK_HISTORY } from './truepeak';
export * from './truepeakMeter';
export * from './meter';
export * from './fft';
export * from './pan';
export * from './convert';
export * from './peaks';
export * from './resample';
export * from './steep';
export * from './noise';
export * from './reverb';
export * from './hilbert';
