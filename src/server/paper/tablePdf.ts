import Papa from 'papaparse';
import type { TableCell } from 'pdfmake/interfaces';
import { paperPdf, paperWords, QUIET, TABLE_LINES } from './words';

/** Columns of more characters than these share what the others leave. */
const LONG = 18;

/** A table of comma-separated values, its first row the heads, on paper; wide ones lie on their side. */
export async function tablePdf(title: string, note: string, csv: string): Promise<Buffer> {
  const [heads = [], ...rows] = Papa.parse<string[]>(csv.trim(), { skipEmptyLines: true }).data;
  const words = paperWords();
  // What no row says is left out: a sheet is read at a stand, not in a program.
  const kept = heads.map((_, i) => i).filter((i) => rows.some((row) => (row[i] ?? '') !== ''));
  const columns = kept.length > 0 ? kept : heads.map((_, i) => i);
  const longest = columns.map((i) => Math.max(...rows.map((r) => (r[i] ?? '').length), 1));
  const widths = longest.map((n) => (n > LONG ? '*' : 'auto'));
  if (!widths.includes('*')) widths[widths.length - 1] = '*';
  const body: TableCell[][] = [
    columns.map((i) => words.text(heads[i] ?? '', QUIET)),
    ...rows.map((row) =>
      columns.map((i) => (/^[-+\d.:;, ]+$/.test(row[i] ?? '') ? words.figure : words.text)(row[i] ?? '') as TableCell),
    ),
  ];
  return paperPdf(
    title,
    words,
    [
      words.text(title, { bold: true, fontSize: 17 }),
      words.text(note, { ...QUIET, margin: [0, 0, 0, 10] }),
      { fontSize: 8.5, table: { headerRows: 1, dontBreakRows: true, widths, body }, layout: TABLE_LINES },
    ],
    columns.length > 6 ? { pageOrientation: 'landscape' } : {},
  );
}
