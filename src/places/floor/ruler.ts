import { frameRate, frameToSample, framesToTimecode, sampleToFrame, timecodeToFrames } from '@/core/units';
import type { SessionDoc } from '@/core/session';

export interface Tick {
  sample: number;
  label: string | null;
}

/** Steps of a readable ruler, in frames of timecode seconds. */
const SECONDS = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600];

/** Ticks in [from, to] so that labels stand at least `gap` samples apart; labels count real timecode. */
export function ticks(doc: SessionDoc, from: number, to: number, gap: number): Tick[] {
  const rate = frameRate(doc.format.frameRate);
  const sr = doc.format.sampleRate;
  const start = timecodeToFrames(doc.format.startTimecode, rate);
  const perFrame = (sr * rate.den) / rate.num;
  const steps = [1, 5, ...SECONDS.map((s) => s * rate.nominal)];
  const step = steps.find((s) => s * perFrame >= gap) ?? steps.at(-1)!;
  const fine = step >= rate.nominal * 5 ? step / 5 : step >= rate.nominal ? step / 2 : step;
  const found: Tick[] = [];
  const first = Math.floor((start + sampleToFrame(Math.max(0, from), rate, sr)) / fine) * fine;
  for (let f = first; ; f += fine) {
    const frame = Math.round(f);
    const sample = frameToSample(frame - start, rate, sr);
    if (sample > to) return found;
    if (sample < 0) continue;
    const major = Math.abs(f / step - Math.round(f / step)) < 1e-9;
    found.push({ sample, label: major ? framesToTimecode(frame, rate) : null });
  }
}
