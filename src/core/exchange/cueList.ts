import Papa from 'papaparse';
import { guarded, unguarded } from './cells';
import { frameRate, framesToTimecode, timecodeToFrames, type FrameRateId } from '@/core/units';
import { type Cue, ExchangeFault, type Read } from './timeline';

/** Timecodes of a list: its frame rate, and the frame (since 00:00:00:00) at which second 0 stands. */
export interface ListTimes {
  frameRate: FrameRateId;
  startFrames: number;
}

const COLUMNS = ['number', 'in', 'out', 'speaker', 'text'] as const;

/** Comma-separated cue list (RFC 4180): number, in, out, speaker, text; times as timecode. */
export function writeCueList(cues: readonly Cue[], { frameRate: id, startFrames }: ListTimes): string {
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

const NAMES: Record<(typeof COLUMNS)[number], RegExp> = {
  number: /^(number|no\.?|nr\.?|#|cue)$/i,
  in: /^(in|start|from|tc in|timecode in)$/i,
  out: /^(out|end|to|tc out|timecode out)$/i,
  speaker: /^(speaker|character|name|role)$/i,
  text: /^(text|line|dialogue|dialog)$/i,
};

/**
 * Reads a cue list by its headings, whatever their order, separated by commas, semicolons or tabs. Throws ExchangeFault
 * when the headings for in and text are missing; rows whose times cannot be read are named in the notes.
 */
export function readCueList(text: string, { frameRate: id, startFrames }: ListTimes): Read<Cue[]> {
  const rate = frameRate(id);
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: [',', ';', '\t'],
  });
  const head = data[0] ?? [];
  const column = (name: (typeof COLUMNS)[number]) => head.findIndex((h) => NAMES[name].test(h.trim()));
  const [no, inAt, outAt, who, what] = (['number', 'in', 'out', 'speaker', 'text'] as const).map(column) as [
    number,
    number,
    number,
    number,
    number,
  ];
  if (inAt < 0 || what < 0)
    throw new ExchangeFault(
      `The first line should hold the headings "in" and "text"; it holds ${JSON.stringify(head.join(', ').slice(0, 60))}.`,
    );
  const notes: string[] = [];
  const seconds = (tc: string) => ((timecodeToFrames(tc, rate) - startFrames) * rate.den) / rate.num;
  const value = data.slice(1).flatMap((row, i): Cue[] => {
    try {
      const start = seconds(row[inAt] ?? '');
      const end = outAt >= 0 && row[outAt]?.trim() ? seconds(row[outAt]) : start;
      const number = unguarded(row[no] ?? '').trim();
      return [
        {
          ...(number ? { number } : {}),
          start,
          end,
          speaker: unguarded(row[who] ?? ''),
          text: unguarded(row[what] ?? ''),
        },
      ];
    } catch (error) {
      notes.push(`Row ${i + 2}: ${(error as Error).message}; it was left out.`);
      return [];
    }
  });
  return { value, notes };
}
