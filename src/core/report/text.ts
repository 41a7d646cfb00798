import Papa from 'papaparse';
import type { Report } from './facts';

/** The report as plain text. */
export function reportText(r: Report): string {
  const pad = (text: string, n: number) => text.padEnd(n);
  const right = (text: string, n: number) => text.padStart(n);
  const widest = Math.max(...r.rows.map((row) => row.file.length), 4);
  const rows = r.rows.flatMap((row, i) => [
    ...(row.range && row.range !== r.rows[i - 1]?.range ? ['', row.range] : []),
    [
      pad(row.file, widest + 2),
      pad(row.layout, 16),
      right(`${row.bits} bit`, 9),
      right(row.lufs, 8),
      right(row.lu, 7),
      right(row.dbtp, 7),
      right(row.silence, 11),
      `  ${row.verdict}`,
    ].join(''),
  ]);
  const head = [
    pad('file', widest + 2),
    pad('layout', 16),
    right('bits', 9),
    right('LUFS', 8),
    right('LU', 7),
    right('dBTP', 7),
    right('silence s', 11),
    '  against the brief',
  ].join('');
  return [
    `${r.title}, print ${r.version}`,
    ...(r.client ? [`For ${r.client}`] : []),
    `Made ${r.when} with Wide Room.`,
    `${r.start} to ${r.end} (${r.length}), ${r.format}, ${r.picture}`,
    '',
    `${r.verdict.title}: ${r.verdict.text}.`,
    '',
    head,
    ...rows,
    '',
    ...r.brief,
    '',
    ...(r.sums.length === 0
      ? ['Stems and reference were not both printed; no sum was made.']
      : r.sums.flatMap((s) => [`Stems against ${s.to}: ${s.figure}`, ...s.sentences.map((t) => `  ${t}`)])),
    ...(r.passedBy.length ? ['', 'Passed by knowingly:', ...r.passedBy.map((t) => `  ${t}`)] : []),
    ...(r.notes ? ['', r.notes] : []),
    ...(r.contact ? ['', r.contact] : []),
    '',
    MEASURED,
    '',
  ].join('\n');
}

export const MEASURED =
  'Measured by reading the finished files back (ITU-R BS.1770-4, EBU Tech 3341, 3342). Prove it again: sha256sum -c SHA256SUMS, or wide-room verify.';

/** The table of the report as comma-separated values. */
export const reportCsv = (r: Report): string =>
  Papa.unparse(
    {
      fields: [
        'file',
        'range',
        'what',
        'layout',
        'channels',
        'bits',
        'LUFS',
        'LU',
        'dBTP',
        'silence s',
        'against the brief',
      ],
      data: r.rows.map((row) => [
        row.file,
        row.range,
        row.what,
        row.layout,
        row.channels,
        row.bits,
        row.lufs,
        row.lu,
        row.dbtp,
        row.silence,
        row.verdict,
      ]),
    },
    // A cell that begins like a formula is text in whatever program opens it.
    { escapeFormulae: /^[=+@]/ },
  );
