'use client';
import { useDoc, useDocPart } from '@/client';
import { exampleName, rangesOf, whatOf, type FileProof, type PrintFacts, type PrintRange } from '@/core/print';
import { formatDb, formatDuration } from '@/core/units';
import { ENCODING_NAMES, foldSentence } from '@/core/report';
import { orderOf, type Deliverable, type SessionDoc } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { StemTag, timecodeOf } from '@/parts';
import { GRADE_COLOUR } from '@/parts';

/** "5.1", "5.1 film", "stereo, Lt/Rt": a file's layout, with its order where it is not as masks count. */
function formOf(doc: SessionDoc, d: Deliverable): string {
  const order = orderOf(doc, d);
  const encoded = d.encode ? `, ${ENCODING_NAMES[d.encode]}` : '';
  return `${layoutOf(d.layout).name}${order === 'wav' ? '' : ` ${order}`}${encoded}`;
}

interface Row {
  key: string;
  what: string;
  /** Of the session as it is now. */
  deliverable: Deliverable | undefined;
  file: string;
  proof: FileProof | undefined;
  range: PrintRange | undefined;
}

/** What the brief asks for, or, once it is printed, what was. */
function rowsOf(doc: SessionDoc, print: PrintFacts | undefined, shown: number | null): Row[] {
  const find = (id: string) => doc.deliverables.find((d) => d.id === id);
  const { proof } = print ?? {};
  if (!print || !proof)
    return doc.deliverables.map((d) => ({
      ...{ key: d.id, what: whatOf(doc, d), deliverable: d, file: example(doc, d, print), proof: undefined },
      range: undefined,
    }));
  const ranges = rangesOf(proof, print);
  return ranges.flatMap((range, i) =>
    shown !== null && i !== shown
      ? []
      : range.files.map((file) => {
          const d = find(file.deliverable);
          const what = file.what ?? whatOf(doc, d);
          return { key: `${i}/${file.deliverable}`, what, deliverable: d, file: file.file, proof: file, range };
        }),
  );
}

function example(doc: SessionDoc, d: Deliverable, print: PrintFacts | undefined): string {
  try {
    return exampleName(doc, d, print?.version ?? 1);
  } catch (error) {
    return (error as Error).message;
  }
}

/** What the brief asks for as rows, with the measured facts of the print that is shown. `shown`: one of its ranges. */
export function PrintTable({ print, shown }: { print: PrintFacts | undefined; shown: number | null }) {
  const doc = useDoc();
  const rows = rowsOf(doc, print, shown);
  const named = (print?.ranges.length ?? 0) > 1 && shown === null;
  return (
    <table className="mt-2 w-full" data-testid="print-table">
      <thead>
        <tr className="small border-b text-left text-quiet [&_th]:py-1.5 [&_th]:pr-2 [&_th]:font-[420]">
          {named && <th className="pl-1">range</th>}
          <th className="pl-1">what</th>
          <th>file</th>
          <th>format</th>
          <th className="text-right">start</th>
          <th className="text-right">length</th>
          <th className="text-right">LUFS</th>
          <th className="text-right">LU</th>
          <th className="text-right">dBTP</th>
          <th className="text-right">silence</th>
          <th className="pl-4">against the brief</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <FileRow key={row.key} row={row} named={named} state={print?.state} />
        ))}
      </tbody>
    </table>
  );
}

function FileRow({ row, named, state }: { row: Row; named: boolean; state: PrintFacts['state'] | undefined }) {
  const doc = useDoc('buses', 'format');
  const { deliverable: d, proof, range } = row;
  const fold = useDocPart((whole) => d && foldSentence(whole, d));
  const form = useDocPart((whole) => d && formOf(whole, d));
  const bus = doc.buses.find((b) => b.id === d?.bus);
  const facts = proof?.facts;
  const findings = proof?.findings ?? [];
  // A note is said, and is no fault.
  const worst = (['stop', 'warn'] as const).find((grade) => findings.some((f) => f.grade === grade)) ?? null;
  const lead = proof?.lead && facts ? (proof.lead * doc.format.sampleRate) / facts.sampleRate : 0;
  return (
    <tr
      className="h-7.25 border-b [&_td]:pr-2 [&_td.text-right]:whitespace-nowrap"
      data-print={proof?.deliverable ?? d?.id}
      style={worst ? { background: `color-mix(in oklab, ${GRADE_COLOUR[worst]} 11%, transparent)` } : {}}
    >
      {named && <td className="max-w-22.5 truncate pl-1 text-quiet">{range?.name}</td>}
      <td className="pl-1">
        <span className="flex items-center gap-2 whitespace-nowrap font-[560]">
          {bus && bus.kind !== 'reference' && <StemTag bus={bus} />}
          {row.what}
        </span>
      </td>
      <td className="figure w-full max-w-0 truncate pr-2 text-quiet" title={row.file}>
        {row.file}
      </td>
      <td className="figure whitespace-nowrap text-quiet" title={fold ?? undefined}>
        {proof?.objects
          ? `${proof.objects.length} objects`
          : d
            ? form
            : proof?.layout
              ? layoutOf(proof.layout).name
              : (facts?.layout ?? '')}
        {facts ? ` ${facts.sampleRate / 1000}/${facts.bits}` : ''}
      </td>
      <td className="figure text-right text-quiet">{facts && range ? timecodeOf(doc, range.start - lead) : ''}</td>
      <td className="figure text-right">{facts ? formatDuration(facts.seconds) : '–'}</td>
      <td className="figure text-right">{facts ? formatDb(facts.integrated) : '–'}</td>
      <td className="figure text-right">{facts ? facts.range.toFixed(1) : '–'}</td>
      <td className="figure text-right">{facts ? formatDb(facts.truePeak) : '–'}</td>
      <td className="figure text-right">
        {facts ? (facts.silent ? 'all' : `${facts.longestSilence.toFixed(1)} s`) : '–'}
      </td>
      <td className="min-w-37.5 pl-4">
        {proof ? (
          <span className="flex items-center gap-2">
            <span
              className="size-1.75 shrink-0 rounded-full"
              style={{ background: worst ? GRADE_COLOUR[worst] : 'var(--fine)' }}
            />
            <span className="small leading-tight">
              {findings.length ? findings.map((f) => f.text).join('; ') : 'as agreed'}
            </span>
          </span>
        ) : (
          <span className="small text-quiet">
            {state === 'running' ? 'printing…' : state === 'waiting' ? 'in line' : 'not printed yet'}
          </span>
        )}
      </td>
    </tr>
  );
}
