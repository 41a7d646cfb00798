'use client';
import { edit, useDoc } from '@/client';
import { bytesPerSample, DATA_OFFSET, formatOfWord } from '@/core/files';
import { printName } from '@/core/print';
import { layoutOf, widthOf } from '@/core/speakers';
import { formatBytes, formatDb } from '@/core/units';
import type { Deliverable, SessionDoc } from '@/core/session';
import { StemTag } from '@/parts';
import { useState } from 'react';

export function nameOrFault(doc: SessionDoc, d: Deliverable, version = 1): string {
  try {
    return printName(doc, d, doc.range.start, version);
  } catch (error) {
    return (error as Error).message;
  }
}

const bytesOf = (doc: SessionDoc, d: Deliverable): number =>
  DATA_OFFSET +
  (doc.range.end - doc.range.start) * widthOf(d.layout) * bytesPerSample(formatOfWord(doc.format.wordLength));

/** What must be handed over, with the names the files will have. */
export function Deliverables() {
  const doc = useDoc();
  const total = doc.deliverables.reduce((sum, d) => sum + bytesOf(doc, d), 0);
  const seconds = (doc.range.end - doc.range.start) / doc.format.sampleRate;
  return (
    <section aria-label="To hand over">
      <div className="mb-1 flex items-baseline gap-3">
        <h2 className="title">To hand over</h2>
        <span className="small text-quiet">
          {doc.limits.name} · {seconds.toFixed(0)} s · {formatBytes(total)}
        </span>
        <NamePattern />
      </div>
      <table className="w-full">
        <thead>
          <tr className="small border-b text-left text-quiet">
            <th className="py-1.5 pl-2 font-[420]">what</th>
            <th className="font-[420]">layout</th>
            <th className="pr-4 text-right font-[420]">LUFS</th>
            <th className="pr-4 text-right font-[420]">dBTP</th>
            <th className="font-[420]">file name</th>
            <th className="pr-2 text-right font-[420]">size</th>
          </tr>
        </thead>
        <tbody>
          {doc.deliverables.map((d) => {
            const bus = doc.buses.find((b) => b.id === d.bus);
            const reference = bus?.kind === 'reference';
            return (
              <tr key={d.id} className="h-[30px] border-b" data-deliverable={d.id}>
                <td className="pl-2">
                  <span className="flex items-center gap-2 font-[560]">
                    {bus && !reference && <StemTag bus={bus} />}
                    {reference && d.layout !== bus.layout ? 'Fold-down' : (bus?.name ?? 'missing bus')}
                  </span>
                </td>
                <td className="text-quiet">{layoutOf(d.layout).name}</td>
                <td className="figure pr-4 text-right">{reference ? formatDb(doc.limits.target) : '–'}</td>
                <td className="figure pr-4 text-right">{formatDb(doc.limits.truePeak)}</td>
                <td className="figure text-quiet">{nameOrFault(doc, d)}</td>
                <td className="figure pr-2 text-right text-quiet">{formatBytes(bytesOf(doc, d))}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

function NamePattern() {
  const { namePattern } = useDoc();
  const [typing, setTyping] = useState<string | null>(null);
  return (
    <label className="small ml-auto flex items-center gap-2 text-quiet">
      names
      <input
        className="figure w-[46ch] rounded-[4px] border border-transparent bg-transparent px-1.5 py-0.5 text-text hover:border-line focus:border-brass focus:outline-none"
        title="Tokens: {session} {bus} {layout} {start} {version}"
        value={typing ?? namePattern}
        spellCheck={false}
        onChange={(e) => setTyping(e.target.value)}
        onBlur={() => {
          if (typing !== null && typing !== namePattern) edit({ type: 'setSession', namePattern: typing });
          setTyping(null);
        }}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') e.currentTarget.blur();
        }}
      />
    </label>
  );
}
