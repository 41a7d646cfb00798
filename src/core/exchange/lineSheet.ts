import Papa from 'papaparse';
import { guarded, unguarded } from './cells';
import { MICROPHONE_KINDS, type EditJson, type Line, type Recorded } from '@/core/session';
import { parseNumber } from '@/core/units';

const COLUMNS = [
  'line',
  'name',
  'position',
  'microphone',
  'model',
  '48 v',
  'pad',
  'polarity',
  'low cut',
  'gain',
  'recorded',
  'note',
] as const;
type Column = (typeof COLUMNS)[number];

/** Other headings of the number of a line: our own table's, and what sheets usually say. */
const LINE_HEADINGS = ['line', '#', 'no', 'no.', 'nr', 'number', 'channel', 'input'];

const YES = /^(y|yes|on|x|1|true|48|48 ?v)$/i;
const NO = /^(n|no|off|-|–|0|false)?$/i;
const REVERSED = /^(rev\w*|inv\w*|ø|180°?|-)$/i;
const NORMAL = /^(norm\w*|\+|0°?|no|off|–)?$/i;
const RECORDED: Record<Recorded, string> = { both: 'processed + dry', processed: 'processed', dry: 'dry' };

/** The line sheet as a table that spreadsheets take: tab-separated, a heading first. */
export function lineSheetTable(lines: readonly Line[]): string {
  const rows = lines.map((l) => [
    String(l.channel + 1),
    guarded(l.name),
    guarded(l.sheet.position),
    l.sheet.kind,
    guarded(l.sheet.model ?? ''),
    l.sheet.phantom ? 'yes' : 'no',
    String(l.sheet.pad),
    l.sheet.inverted ? 'reversed' : 'normal',
    l.sheet.lowCut ? 'yes' : 'no',
    String(l.sheet.gain),
    RECORDED[l.record],
    guarded(l.sheet.note ?? ''),
  ]);
  return Papa.unparse([COLUMNS as readonly string[] as string[], ...rows], { delimiter: '\t', newline: '\n' });
}

/**
 * Edits that bring the lines of a device to what a pasted table says (tabs, commas or semicolons; columns by their
 * heading, in any order). What is not understood is told line by line; the rest counts.
 */
export function readLineSheet(
  text: string,
  device: string,
  lines: readonly Line[],
): { edits: EditJson[]; faults: string[] } {
  const { data } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: true, delimitersToGuess: ['\t', ';', ','] });
  const heading = (data[0] ?? []).map((h) => h.trim().toLowerCase());
  const column = (name: Column) =>
    name === 'line' ? heading.findIndex((h) => LINE_HEADINGS.includes(h)) : heading.indexOf(name);
  if (column('line') < 0 && column('name') < 0)
    return { edits: [], faults: [`The first row must name the columns: ${COLUMNS.join(', ')}.`] };
  const edits: EditJson[] = [];
  const faults: string[] = [];
  const known = new Set<string>([...COLUMNS, ...LINE_HEADINGS, '']);
  for (const h of heading) if (!known.has(h)) faults.push(`The column "${h}" is not known and was passed over.`);
  if (column('line') < 0)
    faults.push('No column says the number of the line: the rows were taken in order, from line 1 on.');
  data.slice(1).forEach((row, i) => {
    const cell = (name: Column) => (column(name) < 0 ? undefined : unguarded(row[column(name)]?.trim() ?? ''));
    const number = column('line') < 0 ? i + 1 : Number(cell('line'));
    const line = lines.find((l) => l.device === device && l.channel === number - 1);
    if (!line) {
      faults.push(`Row ${i + 2}: the session has no line ${cell('line') ?? number} of this device.`);
      return;
    }
    const told = (what: string, value: string) => faults.push(`Row ${i + 2}: ${what} "${value}" is not understood.`);
    const edit: Extract<EditJson, { type: 'setLine' }> = { type: 'setLine', line: line.id };
    const name = cell('name');
    if (name) edit.name = name.slice(0, 60);
    const position = cell('position');
    if (position !== undefined) edit.position = position.slice(0, 80);
    const kind = cell('microphone')?.toLowerCase();
    const known = MICROPHONE_KINDS.find((k) => k === kind);
    if (known) edit.kind = known;
    else if (kind) told('microphone', kind);
    const either = (name: Column, is: RegExp, isNot: RegExp): boolean | undefined => {
      const value = cell(name);
      if (value === undefined) return undefined;
      if (is.test(value)) return true;
      if (!isNot.test(value)) told(name, value);
      else return false;
      return undefined;
    };
    edit.phantom = either('48 v', YES, NO);
    edit.lowCut = either('low cut', YES, NO);
    edit.inverted = either('polarity', REVERSED, NORMAL);
    edit.model = cell('model')?.slice(0, 80);
    edit.note = cell('note')?.slice(0, 500);
    for (const [key, limits] of [
      ['pad', [-40, 0]],
      ['gain', [-20, 80]],
    ] as const) {
      const value = cell(key);
      if (!value) continue;
      const figure = parseNumber(value.replace(/\s*dB$/i, ''));
      if (figure >= limits[0] && figure <= limits[1]) edit[key] = figure;
      else told(key, value);
    }
    const recorded = cell('recorded');
    const found = (Object.keys(RECORDED) as Recorded[]).find((r) => RECORDED[r] === recorded || r === recorded);
    if (found) edit.record = found;
    else if (recorded) told('recorded', recorded);
    edits.push(JSON.parse(JSON.stringify(edit)) as EditJson);
  });
  return { edits, faults };
}
