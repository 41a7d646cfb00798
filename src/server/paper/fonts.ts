import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { ReportFonts } from '@/core/report';
import { appDir } from '../config';

const packageFile = (...parts: string[]): string =>
  path.join(/*turbopackIgnore: true*/ appDir(), 'node_modules', ...parts);

const dataAddress = async (file: string): Promise<string> =>
  `data:font/woff2;base64,${(await readFile(file)).toString('base64')}`;

let pageFonts: Promise<ReportFonts> | null = null;

/** Fonts of the application as they go into a page. */
export function htmlFonts(): Promise<ReportFonts> {
  pageFonts ??= (async () => ({
    text: await dataAddress(
      packageFile('@fontsource-variable', 'archivo', 'files', 'archivo-latin-standard-normal.woff2'),
    ),
    figures: await dataAddress(
      packageFile('@fontsource-variable', 'martian-mono', 'files', 'martian-mono-latin-standard-normal.woff2'),
    ),
  }))();
  return pageFonts;
}

const woff = (family: string, part: string, weight: number): string =>
  packageFile('@fontsource', family, 'files', `${family}-${part}-${weight}-normal.woff`);

/** Fonts of the application as a PDF takes them in: those of Latin letters, and those of the rest of them. */
export const pdfFonts = () =>
  Object.fromEntries(
    (['archivo', 'martian-mono'] as const).flatMap((family) =>
      (['latin', 'latin-ext'] as const).map((part) => {
        const [normal, bold] = [woff(family, part, 400), woff(family, part, 600)];
        return [pdfFontName(family, part), { normal, bold, italics: normal, bolditalics: bold }];
      }),
    ),
  );

export const pdfFontName = (family: 'archivo' | 'martian-mono', part: 'latin' | 'latin-ext'): string =>
  `${family}/${part}`;
