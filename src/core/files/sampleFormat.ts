/** How samples stand in a file; the value is the kernels' code. */
export const SampleFormat = { int16: 16, int24: 24, int32: 32, float32: 132, float64: 164 } as const;
export type SampleFormat = (typeof SampleFormat)[keyof typeof SampleFormat];

export const bytesPerSample = (f: SampleFormat): number => (f === 164 ? 8 : f === 16 ? 2 : f === 24 ? 3 : 4);
export const isFloat = (f: SampleFormat): boolean => f > 100;
export const bitsOf = (f: SampleFormat): number => bytesPerSample(f) * 8;

/** The session's word lengths: 16 and 24 bit integer, 32 bit float. */
export const formatOfWord = (bits: 16 | 24 | 32): SampleFormat => (bits === 32 ? SampleFormat.float32 : bits);
