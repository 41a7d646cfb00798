import type { Content, TableCell } from 'pdfmake/interfaces';
import {
  chartMarks,
  correlationText,
  loudnessSvg,
  MEASURED,
  MOST_CHARTS,
  PAPER,
  PAPER_CHART,
  soundSvg,
  type Report,
  type ReportRow,
} from '@/core/report';
import { paperPdf, paperWords, pdfFontName, QUIET, TABLE_LINES } from '../paper';

const COLOURS = { stop: PAPER.stop, warn: PAPER.warn } as const;
const WIDTH = 515;
const SOUND_SIZE = { width: WIDTH, height: 90 };

/** The report as a PDF on A4, with the fonts of the application in it. */
export async function reportPdf(r: Report): Promise<Buffer> {
  const words = paperWords();
  const { text, figure, heading } = words;
  const quiet = QUIET;
  const list = (sentences: readonly string[]): Content => ({
    ul: sentences.map((s) => text(s, quiet)),
    markerColor: PAPER.quiet,
    ...quiet,
  });
  const row = (f: ReportRow): TableCell[] => [
    { stack: [text(f.what, { bold: true }), figure(f.file, { fontSize: 6.5, color: PAPER.quiet })] },
    text(f.layout),
    ...[f.lufs, f.lu, f.dbtp, f.silence].map((v) => figure(v, { alignment: 'right', margin: [0, 1.5, 0, 0] })),
    text(`\u2022 ${f.verdict}`, { color: f.grade ? COLOURS[f.grade] : PAPER.fine }),
  ];
  const head = ['file', 'layout', 'LUFS', 'LU', 'dBTP', 'silence s', 'against the brief'].map((h, i) =>
    text(h, { ...quiet, alignment: i > 1 && i < 6 ? 'right' : 'left' }),
  );
  const first = r.sums[0];
  const card = (title: Content, words: string, fill: string | null): TableCell => ({
    stack: [title, text(words, { fontSize: 8.5, color: fill ? PAPER.text : PAPER.quiet })],
    margin: [8, 7, 8, 7],
    ...(fill ? { fillColor: fill } : {}),
  });
  const font = pdfFontName('martian-mono', 'latin');
  const charts = r.charts.length > MOST_CHARTS ? [] : r.charts;
  const drawn = charts.flatMap((c): Content[] => {
    const of = c.range ? `, ${c.range}` : '';
    return [
      heading(`Loudness of the reference${of}`),
      { svg: loudnessSvg(c, r.target, { ...PAPER_CHART, width: WIDTH, font }, chartMarks(c)), width: WIDTH },
      ...(c.sound
        ? [
            heading(`Spectrum of the reference${of}`),
            {
              svg: soundSvg(c.sound, { ...SOUND_SIZE, font, text: PAPER.quiet, grid: PAPER.line, bar: PAPER.signal }),
              width: WIDTH,
            } as Content,
            text(
              `Third octaves, dBFS.${c.sound.correlations.length ? ` Correlation of pairs: ${correlationText(c.sound)}.` : ''}`,
              quiet,
            ),
          ]
        : []),
    ];
  });
  const content: Content[] = [
    {
      columns: [
        text('WIDE·ROOM', { bold: true, characterSpacing: 1.4, fontSize: 9.5 }),
        text(`print ${r.version} · ${r.when}`, { ...quiet, alignment: 'right' }),
      ],
    },
    text(r.title, { bold: true, fontSize: 20, margin: [0, 18, 0, 0] }),
    text([r.client ? `for ${r.client}` : '', r.picture].filter(Boolean).join(' · '), quiet),
    {
      margin: [0, 14, 0, 12],
      table: {
        widths: ['38%', '31%', '31%'],
        body: [
          [
            card(
              text(r.verdict.title, { bold: true, fontSize: 13, color: r.verdict.good ? PAPER.fine : PAPER.warn }),
              r.verdict.text,
              r.verdict.good ? PAPER.fineGround : PAPER.warnGround,
            ),
            card(
              first
                ? figure(first.figure, { fontSize: 12, color: first.equal ? PAPER.fine : PAPER.warn })
                : text('No sum', { bold: true, fontSize: 13 }),
              first ? `stems together against ${first.to}` : 'stems and reference were not both printed',
              null,
            ),
            card(figure(`${r.start} – ${r.end}`, { fontSize: 7 }), `${r.length} · ${r.format}`, null),
          ],
        ],
      },
      layout: {
        hLineWidth: () => 0.5,
        vLineWidth: () => 0.5,
        hLineColor: () => PAPER.line,
        vLineColor: () => PAPER.line,
      },
    },
    {
      fontSize: 9,
      table: {
        headerRows: 1,
        dontBreakRows: true,
        widths: ['*', 62, 38, 28, 38, 42, 130],
        body: [
          head,
          ...r.rows.flatMap((f, i) => [
            ...(f.range && f.range !== r.rows[i - 1]?.range
              ? [
                  [
                    { ...(text(f.range, { bold: true, margin: [0, 8, 0, 0] }) as object), colSpan: 7 } as TableCell,
                    ...Array<TableCell>(6).fill(''),
                  ],
                ]
              : []),
            row(f),
          ]),
        ],
      },
      layout: TABLE_LINES,
    },
    text(r.brief.join(' '), { ...quiet, margin: [0, 6, 0, 0] }),
    ...drawn,
    heading('Do the stems add up?'),
    ...(r.sums.length === 0
      ? [text('Stems and reference were not both printed; no sum was made.', quiet)]
      : r.sums.flatMap((s) => [
          {
            columns: [
              figure(s.figure, { width: 'auto', color: s.equal ? PAPER.fine : PAPER.warn, fontSize: 9 }),
              text(`against ${s.to}`, { margin: [6, -1, 0, 2] }),
            ],
          },
          list(s.sentences),
        ])),
    ...(r.passedBy.length ? [heading('Passed by knowingly'), list(r.passedBy)] : []),
    ...(r.notes ? [heading('Notes'), text(r.notes, quiet)] : []),
    heading('Checksums, SHA-256'),
    ...r.checksums.map((c) => figure(`${c.sha256}  ${c.file}`, { fontSize: 5.6, color: PAPER.quiet })),
    text(MEASURED, { ...quiet, margin: [0, 10, 0, 0] }),
    ...(r.contact ? [text(r.contact, { ...quiet, margin: [0, 6, 0, 0] })] : []),
  ];
  if (words.lost()) content.push(text('Letters that the fonts here have not stand as ¿; report.html has them.', quiet));
  return paperPdf(`${r.title}, print ${r.version}`, words, content);
}
