import { reportCsv, reportHtml, reportOf, reportText, type Report } from '@/core/report';
import type { Proof } from '@/core/print';
import type { SessionDoc } from '@/core/session';
import { stringifyFigures } from '@/core/units';
import { htmlFonts } from '../paper';
import { reportPdf } from './pdf';

/** What a report is told in; the proof itself is its data. */
export const REPORT_KINDS = ['html', 'pdf', 'txt', 'csv', 'json'] as const;
export type ReportKind = (typeof REPORT_KINDS)[number];

export const REPORT_TYPES: Record<ReportKind, string> = {
  html: 'text/html; charset=utf-8',
  pdf: 'application/pdf',
  txt: 'text/plain; charset=utf-8',
  csv: 'text/csv; charset=utf-8',
  json: 'application/json',
};

/** The file that a report of a kind is in an archive. */
export const reportName = (kind: ReportKind): string => (kind === 'json' ? 'proof.json' : `report.${kind}`);

export interface Printed {
  doc: SessionDoc;
  proof: Proof;
  version: number;
  range: { start: number; end: number };
}

/** A print in words, as it is read where this runs. */
export const factsFor = ({ doc, proof, version, range }: Printed): Report =>
  reportOf(doc, proof, { version, range, zone: new Intl.DateTimeFormat().resolvedOptions().timeZone });

/** The report of a print in one of its kinds. */
export async function reportAs(printed: Printed, kind: ReportKind): Promise<Buffer> {
  if (kind === 'json') return Buffer.from(stringifyFigures(printed.proof, 2));
  const report = factsFor(printed);
  if (kind === 'pdf') return reportPdf(report);
  if (kind === 'html') return Buffer.from(reportHtml(report, await htmlFonts()));
  return Buffer.from(kind === 'csv' ? reportCsv(report) : reportText(report));
}
