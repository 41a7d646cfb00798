import Papa from 'papaparse';
import { frameRate, timecodeToFrames } from '@/core/units';
import { unguarded } from './cells';
import type { ListTimes } from './cueList';
import { parseCueTime } from './cueTimes';
import { ExchangeFault, type ListedCue, type Read } from './timeline';

/** What a column of a cue list may hold. */
export const CUE_COLUMNS = ['number', 'in', 'out', 'speaker', 'text'] as const;
export type CueColumn = (typeof CUE_COLUMNS)[number];
/** Which column holds what; one that is missing is in no column. */
export type CueColumns = Partial<Record<CueColumn, number>>;

const NAMES: Record<CueColumn, RegExp> = {
  number: /^(number|no\.?|nr\.?|#|cue|id)$/i,
  in: /^(in|start|from|tc in|timecode in|in tc|time in|timecode)$/i,
  out: /^(out|end|to|tc out|timecode out|out tc|time out)$/i,
  speaker: /^(speaker|character|name|role|who)$/i,
  text: /^(text|line|dialogue|dialog|words)$/i,
};

export interface CueTable {
  rows: string[][];
  columns: CueColumns;
  /** The first row names the columns. */
  headed: boolean;
}

/** How many cells of a column look like a time. */
const timed = (rows: readonly string[][], c: number): number =>
  rows.filter((r) => /^\d{1,2}[:;.]\d\d[:;.]\d\d([:;.,]\d{2,3})?$/.test((r[c] ?? '').trim())).length;

/** Columns by what stands in them, where nothing names them: times, short words, the longest text. */
function guessed(rows: readonly string[][]): CueColumns {
  const width = Math.max(0, ...rows.map((r) => r.length));
  const all = Array.from({ length: width }, (_, c) => c);
  const times = all.filter((c) => timed(rows, c) > rows.length / 2);
  const rest = all.filter((c) => !times.includes(c));
  const length = (c: number) => rows.reduce((sum, r) => sum + (r[c] ?? '').length, 0);
  const [text] = [...rest].sort((a, b) => length(b) - length(a));
  const number = rest.find(
    (c) => c !== text && rows.every((r) => /^[\w.-]{0,8}$/.test((r[c] ?? '').trim()) && /\d/.test(r[c] ?? '')),
  );
  const speaker = rest.find((c) => c !== text && c !== number);
  return {
    ...(number === undefined ? {} : { number }),
    ...(times[0] === undefined ? {} : { in: times[0] }),
    ...(times[1] === undefined ? {} : { out: times[1] }),
    ...(speaker === undefined ? {} : { speaker }),
    ...(text === undefined ? {} : { text }),
  };
}

/** The rows of a text with columns, by commas, semicolons or tabs, and which of them hold what; null: it has none. */
export function cueTable(text: string): CueTable | null {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: [',', ';', '\t'],
  });
  const [head = []] = data;
  const columns = Object.fromEntries(
    CUE_COLUMNS.flatMap((name) => {
      const at = head.findIndex((h) => NAMES[name].test(h.trim()));
      return at < 0 ? [] : [[name, at]];
    }),
  ) as CueColumns;
  if (head.length > 1 && (columns.in !== undefined || columns.text !== undefined)) {
    // What the headings do not name is told by what stands below them.
    const named = new Set(Object.values(columns));
    const rest = Object.entries(guessed(data.slice(1))).filter(([name, at]) => !(name in columns) && !named.has(at));
    return { rows: data, columns: { ...(Object.fromEntries(rest) as CueColumns), ...columns }, headed: true };
  }
  const found = guessed(data);
  // Lines of speech may hold commas; a list has times, or as many columns in each of its rows.
  if (found.in !== undefined) return { rows: data, columns: found, headed: false };
  // Its heading may be in words that are not known here.
  const below = guessed(data.slice(1));
  return data.length > 1 && below.in !== undefined ? { rows: data, columns: below, headed: true } : null;
}

/**
 * Cues of a table. Times are timecode, or hours, minutes, seconds and thousandths; seconds count from the list's second
 * 0, for `relative` ones from 00:00:00:00. Rows whose times cannot be read are named in the notes. Throws ExchangeFault
 * when no column holds times or words.
 */
export function cuesOfTable(
  { rows, columns, headed }: CueTable,
  { frameRate: id, startFrames }: ListTimes,
  relative = false,
): Read<ListedCue[]> {
  const rate = frameRate(id);
  const { in: inAt, out: outAt, text: what, speaker: who, number: no } = columns;
  if (inAt === undefined || what === undefined)
    throw new ExchangeFault(
      `No column is said to hold ${inAt === undefined ? 'the time at which a line begins' : 'its words'}. Choose one, or name it in the first line: "in", "text".`,
    );
  const zero = relative ? 0 : (startFrames * rate.den) / rate.num;
  const seconds = (time: string): number => {
    const fine = /[.,]\d{3}$/.test(time.trim()) ? parseCueTime(time) : null;
    return (fine ?? (timecodeToFrames(time, rate) * rate.den) / rate.num) - zero;
  };
  const cell = (row: string[], at: number | undefined) => (at === undefined ? '' : unguarded(row[at] ?? '').trim());
  const notes: string[] = [];
  const value = rows.slice(headed ? 1 : 0).flatMap((row, i): ListedCue[] => {
    try {
      const start = seconds(cell(row, inAt));
      const number = cell(row, no);
      return [
        {
          ...(number ? { number } : {}),
          start,
          end: cell(row, outAt) ? seconds(cell(row, outAt)) : start,
          speaker: cell(row, who),
          text: cell(row, what),
        },
      ];
    } catch (error) {
      notes.push(`Row ${i + (headed ? 2 : 1)}: ${(error as Error).message}; it was left out.`);
      return [];
    }
  });
  if (value.length === 0)
    throw new ExchangeFault(`No row has a time that can be read. ${notes[0] ?? 'Times are written as 10:00:23:00.'}`);
  return { value, notes };
}

/** Reads a cue list, with headings or without. Throws ExchangeFault when no column holds times or words. */
export function readCueList(text: string, times: ListTimes): Read<ListedCue[]> {
  const table = cueTable(text);
  if (!table)
    throw new ExchangeFault(
      `No column of the list holds times. Its first line may name them, as "number, in, out, character, text"; it is ${JSON.stringify(text.trim().split(/\r?\n/)[0]!.slice(0, 60))}.`,
    );
  return cuesOfTable(table, times);
}
