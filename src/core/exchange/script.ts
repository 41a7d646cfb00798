import type { Cue, SessionDoc } from '@/core/session';
import { frameRate, timecodeToFrames } from '@/core/units';
import { readCueList, type ListTimes } from './cueList';
import { readSrt, readVtt } from './subtitles';
import { ExchangeFault, type Cue as ReadCue } from './timeline';

export interface ScriptRead {
  cues: Pick<Cue, 'id' | 'number' | 'start' | 'end' | 'character' | 'text'>[];
  notes: string[];
}

/** Seconds that a line without an end is given: by its length, at three words a second (common practice, no source). */
const spoken = (text: string): number => Math.max(1.5, text.split(/\s+/).length / 3);

const timesOf = (doc: SessionDoc): ListTimes => ({
  frameRate: doc.format.frameRate,
  startFrames: timecodeToFrames(doc.format.startTimecode, frameRate(doc.format.frameRate)),
});

/**
 * Reads a script: WebVTT, SubRip, a cue list with headings, or plain lines, which stand one after another from sample
 * `at`. Times become samples of the session; `newId` names each cue. Throws ExchangeFault that says what is missing.
 */
export function readScript(doc: SessionDoc, text: string, at: number, newId: () => string): ScriptRead {
  const rate = doc.format.sampleRate;
  const { value, notes } = readAny(doc, text, at / rate);
  const before = value.filter((c) => c.start < 0).length;
  return {
    cues: value
      .filter((c) => c.start >= 0)
      .sort((a, b) => a.start - b.start)
      .map((c) => ({
        id: newId(),
        number: (c.number ?? '').slice(0, 12),
        start: Math.round(c.start * rate),
        end: Math.round((c.end > c.start ? c.end : c.start + spoken(c.text)) * rate),
        character: c.speaker.slice(0, 80),
        text: c.text.trim().slice(0, 2000),
      })),
    notes: [
      ...notes,
      ...(before
        ? [
            `${before} ${before === 1 ? 'line stands' : 'lines stand'} before the start of the session and ${before === 1 ? 'was' : 'were'} left out.`,
          ]
        : []),
    ],
  };
}

/** Gives numbers to the cues that the script did not number, from `first` on. */
export const numberCues = (cues: ScriptRead['cues'], first: number): ScriptRead['cues'] =>
  cues.map((c, i) => ({ ...c, number: c.number || String(first + i) }));

function readAny(doc: SessionDoc, text: string, seconds: number): { value: ReadCue[]; notes: string[] } {
  if (/^\uFEFF?WEBVTT/.test(text)) return readVtt(text);
  if (/-->/.test(text)) return readSrt(text);
  const [head = ''] = text.split(/\r?\n/);
  if (/[,;\t]/.test(head) && /\b(in|start|tc in|timecode in|from)\b/i.test(head))
    return readCueList(text, timesOf(doc));
  return plainLines(text, seconds);
}

/** "PILOT: Mind the gauge." or a tab between; one line each, one after another from the playhead. */
function plainLines(text: string, seconds: number): { value: ReadCue[]; notes: string[] } {
  let at = seconds;
  const value = text
    .split(/\r?\n/)
    .map((l) => l.trim())
    .filter(Boolean)
    .map((line): ReadCue => {
      const parts = /^([^:\t]{1,40})[:\t]\s*(.+)$/.exec(line);
      const words = parts ? parts[2]! : line;
      const start = at;
      at += spoken(words) + 1;
      return { start, end: start + spoken(words), speaker: parts ? parts[1]!.trim() : '', text: words };
    });
  if (value.length === 0)
    throw new ExchangeFault(
      'There is no line to read. Paste lines like "PILOT: Mind the gauge.", or a list with times.',
    );
  return {
    value,
    notes: [
      'The lines came without times: they stand one after another from the playhead. Set their times in the script.',
    ],
  };
}
