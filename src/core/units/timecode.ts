import { type FrameRate, frameToSample, sampleToFrame } from './frameRates';

/** Labels left out at each minute except each tenth: two of 30, four of 60 frames. */
const droppedPerMinute = (rate: FrameRate): number => rate.nominal / 15;

/** Frame labels in one day: 2,589,408 at 29.97 drop-frame. */
export function framesPerDay(rate: FrameRate): number {
  return rate.nominal * 86_400 - (rate.drop ? droppedPerMinute(rate) * (1440 - 144) : 0);
}

/**
 * "hh:mm:ss:ff" (drop-frame: "hh:mm:ss;ff") of a frame count. Drop-frame after SMPTE ST 12-1: labels 00
 * and 01 are left out at each minute except each tenth.
 */
export function framesToTimecode(frames: number, rate: FrameRate): string {
  const day = framesPerDay(rate);
  let n = ((Math.floor(frames) % day) + day) % day;
  if (rate.drop) {
    const drop = droppedPerMinute(rate);
    const perMinute = rate.nominal * 60 - drop;
    const perTen = perMinute * 10 + drop;
    const tens = Math.floor(n / perTen);
    const rest = n % perTen;
    n += 9 * drop * tens + (rest >= drop ? drop * Math.floor((rest - drop) / perMinute) : 0);
  }
  const pad = (v: number) => String(v).padStart(2, '0');
  const ff = n % rate.nominal;
  const s = Math.floor(n / rate.nominal);
  const text = `${pad(Math.floor(s / 3600))}:${pad(Math.floor(s / 60) % 60)}:${pad(s % 60)}`;
  return text + (rate.drop ? ';' : ':') + pad(ff);
}

/**
 * Frame count of a timecode. Accepts ":", ";" and "." between the fields, and fewer fields from the
 * right ("12:04" is 12 s 4 frames), or plain digits filled from the right ("10000000").
 * Throws RangeError with a sentence that says how to mend.
 */
export function timecodeToFrames(text: string, rate: FrameRate): number {
  const trimmed = text.trim();
  const parts = /^\d{1,8}$/.test(trimmed) ? trimmed.padStart(8, '0').match(/../g)! : trimmed.split(/[:;.]/);
  if (parts.length < 2 || parts.length > 4 || !parts.every((p) => /^\d{1,2}$/.test(p))) {
    throw new RangeError(`"${text}" is no timecode; write hours:minutes:seconds:frames, for example 10:00:00:00`);
  }
  const [hh, mm, ss, ff] = [...Array<string>(4 - parts.length).fill('0'), ...parts].map(Number) as [
    number,
    number,
    number,
    number,
  ];
  if (hh > 23 || mm > 59 || ss > 59) throw new RangeError(`"${text}" goes past 23:59:59`);
  if (ff >= rate.nominal)
    throw new RangeError(`"${text}": at ${rate.label} frames count from 00 to ${rate.nominal - 1}`);
  const drop = rate.drop ? droppedPerMinute(rate) : 0;
  if (ff < drop && ss === 0 && mm % 10 !== 0) {
    throw new RangeError(`"${text}" does not exist in drop-frame: that minute starts at frame 0${drop}`);
  }
  const total = ((hh * 60 + mm) * 60 + ss) * rate.nominal + ff;
  return total - drop * (hh * 60 + mm - Math.floor((hh * 60 + mm) / 10));
}

/** Timecode of a sample on a timeline whose sample 0 stands at `startFrames`. */
export function sampleToTimecode(sample: number, startFrames: number, rate: FrameRate, sampleRate: number): string {
  return framesToTimecode(startFrames + sampleToFrame(sample, rate, sampleRate), rate);
}

/** Timeline sample of a timecode; negative before the start. */
export function timecodeToSample(text: string, startFrames: number, rate: FrameRate, sampleRate: number): number {
  return frameToSample(timecodeToFrames(text, rate) - startFrames, rate, sampleRate);
}
