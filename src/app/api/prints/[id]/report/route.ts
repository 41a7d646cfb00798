import { binary, Refused, route } from '@/server/http';
import { printReport, REPORT_KINDS, REPORT_TYPES, type ReportKind } from '@/server/prints';

/** The report of a print; `as` says in what: html, pdf, txt, csv, json. `save` hands it out as a file. */
export const GET = route<{ id: string }>(async (request, { id }) => {
  const query = new URL(request.url).searchParams;
  const kind = (query.get('as') ?? 'html') as ReportKind;
  if (!REPORT_KINDS.includes(kind))
    throw new Refused(422, `A report comes as ${REPORT_KINDS.join(', ')}; "${kind}" is none of them.`);
  const { name, bytes } = await printReport(id, kind);
  return binary(new Uint8Array(bytes), REPORT_TYPES[kind], {
    'Content-Disposition': `${query.has('save') ? 'attachment' : 'inline'}; filename="${name}"`,
    // It asks nobody for anything; its fonts and its style stand in it.
    'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; font-src data:; img-src data:",
  });
});
