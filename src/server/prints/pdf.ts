import pdfmake from 'pdfmake';
import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
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
import { pdfFontName, pdfFonts } from './fonts';

type Family = 'archivo' | 'martian-mono';

/** Letters of the two halves of the fonts that are shipped (their own unicode ranges). */
const LATIN =
  /[\u0000-\u00ff\u0131\u0152\u0153\u02bb\u02bc\u02c6\u02da\u02dc\u0304\u0308\u0329\u2000-\u206f\u20ac\u2122\u2191\u2193\u2212\u2215]/u;
const MORE =
  /[\u0100-\u02ba\u02bd-\u02c5\u02c7-\u02cc\u02ce-\u02d7\u02dd-\u02ff\u1e00-\u1e9f\u1ef2-\u1eff\u20a0-\u20c0]/u;
/** Stands for a letter that no shipped font has; the page has it from the reader's machine. */
const NONE = '\u00bf';

/** A text in pieces, each in the half of the font that has its letters; `lost` is called where none has. */
function runs(text: string, family: Family, lost: () => void): { text: string; font: string }[] {
  const out: { text: string; font: string }[] = [];
  for (const letter of text) {
    const part = LATIN.test(letter) || !MORE.test(letter) ? 'latin' : 'latin-ext';
    const shown = LATIN.test(letter) || MORE.test(letter) ? letter : NONE;
    if (shown !== letter) lost();
    const font = pdfFontName(family, part);
    const last = out.at(-1);
    if (last?.font === font) last.text += shown;
    else out.push({ text: shown, font });
  }
  return out;
}

const COLOURS = { stop: PAPER.stop, warn: PAPER.warn } as const;
const WIDTH = 515;
const SOUND_SIZE = { width: WIDTH, height: 90 };

/** The report as a PDF on A4, with the fonts of the application in it. */
export async function reportPdf(r: Report): Promise<Buffer> {
  let lost = false;
  const text = (words: string, more: object = {}): Content => ({
    text: runs(words, 'archivo', () => (lost = true)),
    ...more,
  });
  const figure = (words: string, more: object = {}): Content => ({
    text: runs(words, 'martian-mono', () => (lost = true)),
    fontSize: 7.5,
    ...more,
  });
  const quiet = { color: PAPER.quiet, fontSize: 8.5 };
  const heading = (words: string): Content => text(words, { bold: true, fontSize: 10, margin: [0, 14, 0, 4] });
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
  const lines = {
    hLineWidth: (i: number) => (i === 0 ? 0 : 0.5),
    vLineWidth: () => 0,
    hLineColor: () => PAPER.line,
    paddingLeft: () => 0,
    paddingRight: () => 6,
  };
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
      layout: lines,
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
          } as Content,
          list(s.sentences),
        ])),
    ...(r.passedBy.length ? [heading('Passed by knowingly'), list(r.passedBy)] : []),
    ...(r.notes ? [heading('Notes'), text(r.notes, quiet)] : []),
    heading('Checksums, SHA-256'),
    ...r.checksums.map((c) => figure(`${c.sha256}  ${c.file}`, { fontSize: 5.6, color: PAPER.quiet })),
    text(MEASURED, { ...quiet, margin: [0, 10, 0, 0] }),
    ...(r.contact ? [text(r.contact, { ...quiet, margin: [0, 6, 0, 0] })] : []),
  ];
  if (lost) content.push(text('Letters that the fonts here have not stand as ¿; report.html has them.', quiet));
  const definition: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [40, 40, 40, 44],
    info: { title: `${r.title}, print ${r.version}`, creator: 'Wide Room' },
    defaultStyle: { font: pdfFontName('archivo', 'latin'), fontSize: 9, color: PAPER.text, lineHeight: 1.12 },
    footer: (page, pages) => ({
      columns: [
        text(`${r.title}, print ${r.version}`, { ...quiet, fontSize: 7.5 }),
        text(`${page} of ${pages}`, { ...quiet, fontSize: 7.5, alignment: 'right' }),
      ],
      margin: [40, 14, 40, 0],
    }),
    content,
  };
  const fonts = pdfFonts();
  const own = new Set(Object.values(fonts).flatMap((f) => Object.values(f)));
  pdfmake.setFonts(fonts);
  // Fonts are files of ours; nothing else is fetched or read for a report.
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((file) => own.has(file));
  return pdfmake.createPdf(definition).getBuffer();
}
