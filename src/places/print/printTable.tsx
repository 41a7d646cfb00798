'use client';
import { useDoc } from '@/client';
import { printName } from '@/core/print';
import { formatDb, formatDuration } from '@/core/units';
import { ENCODING_NAMES, foldSentence } from '@/core/report';
import { orderOf, type Deliverable, type SessionDoc } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { StemTag, timecodeOf } from '@/parts';
import { GRADE_COLOUR } from '@/parts';
import type { PrintFacts } from './usePrints';

/** "5.1", "5.1 film", "stereo, Lt/Rt": a file's layout, with its order where it is not as masks count. */
function formOf(doc: SessionDoc, d: Deliverable): string {
  const order = orderOf(doc, d);
  const encoded = d.encode ? `, ${ENCODING_NAMES[d.encode]}` : '';
  return `${layoutOf(d.layout).name}${order === 'wav' ? '' : ` ${order}`}${encoded}`;
}

/** What the brief asks for as rows, with the measured facts of the print that is shown. */
export function PrintTable({ print }: { print: PrintFacts | undefined }) {
  const doc = useDoc();
  const name = (id: string) => {
    const d = doc.deliverables.find((x) => x.id === id);
    try {
      return d ? printName(doc, d, doc.range.start, print ? print.version : 1) : '';
    } catch (error) {
      return (error as Error).message;
    }
  };
  const ids = print?.proof ? print.proof.files.map((f) => f.deliverable) : doc.deliverables.map((d) => d.id);
  return (
    <table className="mt-2 w-full" data-testid="print-table">
      <thead>
        <tr className="small border-b text-left text-quiet [&_th]:py-1.5 [&_th]:pr-2 [&_th]:font-[420]">
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
        {ids.map((id) => {
          const d = doc.deliverables.find((x) => x.id === id);
          const bus = doc.buses.find((b) => b.id === d?.bus);
          const proof = print?.proof?.files.find((f) => f.deliverable === id);
          const facts = proof?.facts;
          const findings = proof?.findings ?? [];
          // A note is said, and is no fault.
          const worst = (['stop', 'warn'] as const).find((grade) => findings.some((f) => f.grade === grade)) ?? null;
          return (
            <tr
              key={id}
              className="h-[29px] border-b [&_td]:pr-2 [&_td.text-right]:whitespace-nowrap"
              data-print={id}
              style={worst ? { background: `color-mix(in oklab, ${GRADE_COLOUR[worst]} 11%, transparent)` } : {}}
            >
              <td className="pl-1">
                <span className="flex items-center gap-2 whitespace-nowrap font-[560]">
                  {bus && bus.kind !== 'reference' && <StemTag bus={bus} />}
                  {bus?.kind === 'reference'
                    ? d && d.layout !== bus.layout
                      ? 'Fold-down'
                      : bus.name
                    : (bus?.name ?? id)}
                </span>
              </td>
              <td className="figure w-full max-w-0 truncate pr-2 text-quiet" title={proof?.file ?? name(id)}>
                {proof?.file ?? name(id)}
              </td>
              <td
                className="figure whitespace-nowrap text-quiet"
                title={d ? (foldSentence(doc, d) ?? undefined) : undefined}
              >
                {d ? formOf(doc, d) : (facts?.layout ?? '')}
                {facts ? ` ${facts.sampleRate / 1000}/${facts.bits}` : ''}
              </td>
              <td className="figure text-right text-quiet">{facts && print ? timecodeOf(doc, print.start) : ''}</td>
              <td className="figure text-right">{facts ? formatDuration(facts.seconds) : '–'}</td>
              <td className="figure text-right">{facts ? formatDb(facts.integrated) : '–'}</td>
              <td className="figure text-right">{facts ? facts.range.toFixed(1) : '–'}</td>
              <td className="figure text-right">{facts ? formatDb(facts.truePeak) : '–'}</td>
              <td className="figure text-right">
                {facts ? (facts.silent ? 'all' : `${facts.longestSilence.toFixed(1)} s`) : '–'}
              </td>
              <td className="min-w-[150px] pl-4">
                {proof ? (
                  <span className="flex items-center gap-2">
                    <span
                      className="size-[7px] shrink-0 rounded-full"
                      style={{ background: worst ? GRADE_COLOUR[worst] : 'var(--fine)' }}
                    />
                    <span className="small leading-tight">
                      {findings.length ? findings.map((f) => f.text).join('; ') : 'as agreed'}
                    </span>
                  </span>
                ) : (
                  <span className="small text-quiet">
                    {print?.state === 'running' ? 'printing…' : 'not printed yet'}
                  </span>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
