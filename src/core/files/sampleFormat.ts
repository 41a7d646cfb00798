/** How samples stand in a file; the value is the kernels' code. 8 bit: unsigned in WAV, signed in AIFF. */
export const SampleFormat = {
  uint8: 8,
  int8: 9,
  int16: 16,
  int24: 24,
  int32: 32,
  float32: 132,
  float64: 164,
} as const;
export type SampleFormat = (typeof SampleFormat)[keyof typeof SampleFormat];

const BYTES: Record<SampleFormat, number> = { 8: 1, 9: 1, 16: 2, 24: 3, 32: 4, 132: 4, 164: 8 };

export const bytesPerSample = (f: SampleFormat): number => BYTES[f];
export const isFloat = (f: SampleFormat): boolean => f > 100;
export const bitsOf = (f: SampleFormat): number => bytesPerSample(f) * 8;

/** The session's word lengths: 16 and 24 bit integer, 32 bit float. */
export const formatOfWord = (bits: 16 | 24 | 32): SampleFormat => (bits === 32 ? SampleFormat.float32 : bits);
