export type FrameRateId =
  '23.976' | '24' | '25' | '29.97' | '29.97df' | '30' | '47.952' | '48' | '50' | '59.94' | '59.94df' | '60';

export interface FrameRate {
  id: FrameRateId;
  label: string;
  /** Frames a second as a fraction. */
  num: number;
  den: number;
  /** Frames counted in a timecode second. */
  nominal: number;
  drop: boolean;
}

export const FRAME_RATES: readonly FrameRate[] = [
  { id: '23.976', label: '23.976 fps', num: 24000, den: 1001, nominal: 24, drop: false },
  { id: '24', label: '24 fps', num: 24, den: 1, nominal: 24, drop: false },
  { id: '25', label: '25 fps', num: 25, den: 1, nominal: 25, drop: false },
  { id: '29.97', label: '29.97 fps', num: 30000, den: 1001, nominal: 30, drop: false },
  { id: '29.97df', label: '29.97 fps drop-frame', num: 30000, den: 1001, nominal: 30, drop: true },
  { id: '30', label: '30 fps', num: 30, den: 1, nominal: 30, drop: false },
  { id: '47.952', label: '47.952 fps', num: 48000, den: 1001, nominal: 48, drop: false },
  { id: '48', label: '48 fps', num: 48, den: 1, nominal: 48, drop: false },
  { id: '50', label: '50 fps', num: 50, den: 1, nominal: 50, drop: false },
  { id: '59.94', label: '59.94 fps', num: 60000, den: 1001, nominal: 60, drop: false },
  { id: '59.94df', label: '59.94 fps drop-frame', num: 60000, den: 1001, nominal: 60, drop: true },
  { id: '60', label: '60 fps', num: 60, den: 1, nominal: 60, drop: false },
];

/** Throws RangeError for an unknown id. */
export function frameRate(id: FrameRateId): FrameRate {
  const found = FRAME_RATES.find((r) => r.id === id);
  if (!found) throw new RangeError(`unknown frame rate "${id}"`);
  return found;
}

/** First sample of frame `frame`: the frame's exact time, rounded to the nearest sample. */
export function frameToSample(frame: number, rate: FrameRate, sampleRate: number): number {
  return Math.round((frame * sampleRate * rate.den) / rate.num);
}

/** The frame that sample `sample` belongs to. */
export function sampleToFrame(sample: number, rate: FrameRate, sampleRate: number): number {
  const guess = Math.floor((sample * rate.num) / (sampleRate * rate.den));
  return frameToSample(guess + 1, rate, sampleRate) <= sample ? guess + 1 : guess;
}
