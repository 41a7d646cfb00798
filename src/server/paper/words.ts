import pdfmake from 'pdfmake';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';
import { PAPER } from '@/core/report';
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

/** What a page is written with: texts in the fonts of the application. */
export interface PaperWords {
  text(words: string, more?: object): Content;
  figure(words: string, more?: object): Content;
  heading(words: string): Content;
  /** Whether a letter was written that no shipped font has. */
  lost(): boolean;
}

/** Small words beside the matter. */
export const QUIET = { color: PAPER.quiet, fontSize: 8.5 };

export function paperWords(): PaperWords {
  let lost = false;
  const miss = () => (lost = true);
  const text = (words: string, more: object = {}): Content => ({ text: runs(words, 'archivo', miss), ...more });
  return {
    text,
    figure: (words, more = {}) => ({ text: runs(words, 'martian-mono', miss), fontSize: 7.5, ...more }),
    heading: (words) => text(words, { bold: true, fontSize: 10, margin: [0, 14, 0, 4] }),
    lost: () => lost,
  };
}

/** Lines of a table on paper. */
export const TABLE_LINES = {
  hLineWidth: (i: number) => (i === 0 ? 0 : 0.5),
  vLineWidth: () => 0,
  hLineColor: () => PAPER.line,
  paddingLeft: () => 0,
  paddingRight: () => 6,
};

/** A PDF on A4 with its title at the foot of each page. */
export async function paperPdf(
  title: string,
  words: PaperWords,
  content: Content[],
  more: Partial<TDocumentDefinitions> = {},
): Promise<Buffer> {
  const definition: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [40, 40, 40, 44],
    info: { title, creator: 'Wide Room' },
    defaultStyle: { font: pdfFontName('archivo', 'latin'), fontSize: 9, color: PAPER.text, lineHeight: 1.12 },
    footer: (page, pages) => ({
      columns: [
        words.text(title, { ...QUIET, fontSize: 7.5 }),
        words.text(`${page} of ${pages}`, { ...QUIET, fontSize: 7.5, alignment: 'right' }),
      ],
      margin: [40, 14, 40, 0],
    }),
    content,
    ...more,
  };
  const fonts = pdfFonts();
  const own = new Set(Object.values(fonts).flatMap((f) => Object.values(f)));
  pdfmake.setFonts(fonts);
  // Fonts are files of ours; nothing else is fetched or read for a page.
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((file) => own.has(file));
  return pdfmake.createPdf(definition).getBuffer();
}
