import type { Cue, SessionDoc } from '@/core/session';
import { frameRate, timecodeToFrames } from '@/core/units';
import type { ListTimes } from './cueList';
import { cuesOfTable, cueTable, type CueColumns, type CueTable } from './cueTable';
import { readSrt, readVtt } from './subtitles';
import { ExchangeFault, type ListedCue } from './timeline';

export interface ScriptRead {
  cues: Pick<Cue, 'id' | 'number' | 'start' | 'end' | 'character' | 'text'>[];
  notes: string[];
  /** The columns that it was read by; null: it has none. */
  table: CueTable | null;
  /** From where its times were counted; null: it has none. */
  times: ScriptTimes | null;
}

/** Times of a script: as they are (the session's timecode), or from the start of the session. */
export type ScriptTimes = 'timecode' | 'from the start';

/** What is said of a script that it does not say itself. */
export interface ScriptAsked {
  columns?: CueColumns;
  headed?: boolean;
  times?: ScriptTimes;
}

/** Seconds that a line without an end is given: by its length, at three words a second (common practice, no source). */
const spoken = (text: string): number => Math.max(1.5, text.split(/\s+/).length / 3);

const timesOf = (doc: SessionDoc): ListTimes => ({
  frameRate: doc.format.frameRate,
  startFrames: timecodeToFrames(doc.format.startTimecode, frameRate(doc.format.frameRate)),
});

/**
 * Reads a script: WebVTT, SubRip, a cue list with columns, or plain lines, which stand one after another from sample
 * `at`. Times become samples of the session; `newId` names each cue. What `asked` does not say is guessed, and told in
 * the answer. Throws ExchangeFault that says what is missing.
 */
export function readScript(
  doc: SessionDoc,
  text: string,
  at: number,
  newId: () => string,
  asked: ScriptAsked = {},
): ScriptRead {
  const rate = doc.format.sampleRate;
  const { value, notes, table, times } = readAny(doc, text, at / rate, asked);
  const before = value.filter((c) => c.start < 0).length;
  if (before === value.length)
    throw new ExchangeFault(
      `All lines stand before ${doc.format.startTimecode}, the start of the session. Are their times counted from the start?`,
    );
  const cues = value
    .filter((c) => c.start >= 0)
    .sort((a, b) => a.start - b.start)
    .map((c) => ({
      id: newId(),
      number: (c.number ?? '').slice(0, 12),
      start: Math.round(c.start * rate),
      end: Math.round((c.end > c.start ? c.end : c.start + spoken(c.text)) * rate),
      character: c.speaker.slice(0, 80),
      text: c.text.trim().slice(0, 2000),
    }));
  const early = `${before} ${before === 1 ? 'line stands' : 'lines stand'} before the start of the session and ${before === 1 ? 'was' : 'were'} left out.`;
  return { cues, notes: [...notes, ...(before ? [early] : [])], table, times };
}

/** Numbers that stand at more than one cue, among these and those that the session has already. */
export function twiceNumbered(cues: ScriptRead['cues'], there: readonly Pick<Cue, 'number'>[] = []): string[] {
  const seen = new Map<string, number>();
  for (const { number } of [...there, ...cues]) if (number) seen.set(number, (seen.get(number) ?? 0) + 1);
  return [...seen].flatMap(([number, n]) => (n > 1 && cues.some((c) => c.number === number) ? [number] : []));
}

/** Gives numbers to the cues that the script did not number, from `first` on. */
export const numberCues = (cues: ScriptRead['cues'], first: number): ScriptRead['cues'] =>
  cues.map((c, i) => ({ ...c, number: c.number || String(first + i) }));

interface AnyRead {
  value: ListedCue[];
  notes: string[];
  table: CueTable | null;
  times: ScriptTimes | null;
}

/** Times that all lie before the session's start, as it is counted, are counted from it. */
const guessTimes = (value: readonly ListedCue[], start: number): ScriptTimes =>
  start > 0 && value.every((c) => c.start < start) ? 'from the start' : 'timecode';

function readAny(doc: SessionDoc, text: string, seconds: number, asked: ScriptAsked): AnyRead {
  const { frameRate: id, startFrames } = timesOf(doc);
  const rate = frameRate(id);
  const start = (startFrames * rate.den) / rate.num;
  if (/^\uFEFF?WEBVTT/.test(text) || /-->/.test(text)) {
    const { value, notes } = /^\uFEFF?WEBVTT/.test(text) ? readVtt(text) : readSrt(text);
    const times = asked.times ?? guessTimes(value, start);
    const by = times === 'timecode' ? start : 0;
    return { value: value.map((c) => ({ ...c, start: c.start - by, end: c.end - by })), notes, table: null, times };
  }
  const found = cueTable(text);
  if (!found) return { ...plainLines(text, seconds), table: null, times: null };
  const table = {
    ...found,
    ...(asked.columns ? { columns: asked.columns } : {}),
    ...(asked.headed === undefined ? {} : { headed: asked.headed }),
  };
  const plain = cuesOfTable(table, { frameRate: id, startFrames }, true);
  const times = asked.times ?? guessTimes(plain.value, start);
  return { ...(times === 'timecode' ? cuesOfTable(table, { frameRate: id, startFrames }) : plain), table, times };
}

/** "PILOT: Mind the gauge." or a tab between; one line each, one after another from the playhead. */
function plainLines(text: string, seconds: number): { value: ListedCue[]; notes: string[] } {
  let at = seconds;
  const value = text
    .split(/\r?\n/)
    .map((l) => l.trim())
    .filter(Boolean)
    .map((line): ListedCue => {
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
