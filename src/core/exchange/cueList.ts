import Papa from 'papaparse';
import { guarded } from './cells';
import { frameRate, framesToTimecode, type FrameRateId } from '@/core/units';
import type { ListedCue } from './timeline';

/** Timecodes of a list: its frame rate, and the frame (since 00:00:00:00) at which second 0 stands. */
export interface ListTimes {
  frameRate: FrameRateId;
  startFrames: number;
}

const COLUMNS = ['number', 'in', 'out', 'speaker', 'text'] as const;

/** Comma-separated cue list (RFC 4180): number, in, out, speaker, text; times as timecode. */
export function writeCueList(cues: readonly ListedCue[], { frameRate: id, startFrames }: ListTimes): string {
  const rate = frameRate(id);
  const tc = (seconds: number) => framesToTimecode(startFrames + Math.round((seconds * rate.num) / rate.den), rate);
  const rows = cues.map((c, i) => [
    guarded(c.number ?? String(i + 1)),
    tc(c.start),
    tc(c.end),
    guarded(c.speaker),
    guarded(c.text),
  ]);
  return Papa.unparse({ fields: [...COLUMNS], data: rows }, { newline: '\r\n' }) + '\r\n';
}
