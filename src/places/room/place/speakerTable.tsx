'use client';
import { pathFrom } from '@/core/paths';
import { useRef } from 'react';
import { readLevel, useDoc } from '@/client';
import { sourceGains } from '@/core/engine';
import { busOf, referenceOf, type Track } from '@/core/session';
import { layoutOf, toStereo } from '@/core/speakers';
import { formatDb, toDb } from '@/core/units';
import { Meter, PeakFigure, useFrame, useKernels } from '@/parts';

/** What each speaker receives: of the selected source in dB, and of the whole mix live. */
export function SpeakerTable({ track }: { track: Track | null }) {
  const doc = useDoc();
  const k = useKernels();
  const reference = referenceOf(doc);
  const layout = layoutOf(doc.format.layout);
  const first = track ? pathFrom(doc, track.destination)[0] : undefined;
  const gains = k && track ? sourceGains(k, track, first ? busOf(doc, first.id).layout : doc.format.layout) : [];
  return (
    <>
      <h2 className="title mb-1">What the speakers receive</h2>
      <table className="w-full">
        <thead>
          <tr className="small border-b text-left text-quiet [&_th]:py-1.5 [&_th]:font-[420]">
            <th>speaker</th>
            <th className="text-right">angle</th>
            <th className="pl-4 text-right">{track ? `from ${track.name}` : 'source'}</th>
            <th className="w-[66px] text-right">now</th>
            <th className="pl-6">the whole mix</th>
            <th className="text-right">peak</th>
          </tr>
        </thead>
        <tbody>
          {layout.speakers.map((s, c) => {
            const gain = Math.sqrt(gains.reduce((sum, row) => sum + (row[c] ?? 0) ** 2, 0));
            return (
              <tr key={s.label} className="h-[30px] border-b" data-speaker={s.label}>
                <td className="font-[600]">{s.label}</td>
                <td className="figure text-right text-quiet">{s.lfe ? '–' : `${s.azimuth}°`}</td>
                <td className="figure pl-4 text-right" data-gain>
                  {gain > 1e-5 ? `${formatDb(toDb(gain))} dB` : '·'}
                </td>
                <td className="text-right">
                  {track && <SourceNow track={track} gains={gains.map((row) => row[c] ?? 0)} />}
                </td>
                <td className="w-[36%] pl-6">
                  <Meter keys={[`out/${reference?.id}/${c}`]} label={`Mix in ${s.label}`} />
                </td>
                <td className="text-right">
                  <PeakFigure keys={[`out/${reference?.id}/${c}`]} />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <FoldDown />
    </>
  );
}

// Level of the source in one speaker: its channels' levels, each through its gain.
function SourceNow({ track, gains }: { track: Track; gains: number[] }) {
  const text = useRef<HTMLSpanElement>(null);
  useFrame(() => {
    const db = Math.max(-Infinity, ...gains.map((g, c) => readLevel(`out/${track.id}/${c}`).db + toDb(g)));
    if (text.current) text.current.textContent = db > -90 ? formatDb(db) : '·';
  });
  return (
    <span ref={text} className="figure">
      ·
    </span>
  );
}

function FoldDown() {
  const doc = useDoc();
  const layout = layoutOf(doc.format.layout);
  if (layout.id === 'stereo') return null;
  const rows = toStereo(layout);
  return (
    <section className="mt-5">
      <h3 className="mb-1 font-[600]">
        Heard as stereo <span className="small font-[420] text-quiet">fold-down of the monitor, ITU-R BS.775</span>
      </h3>
      <table className="w-full">
        <thead>
          <tr className="small border-b text-right text-quiet">
            {['', ...layout.speakers.map((s) => s.label)].map((h) => (
              <th key={h} className="py-1 font-[420]">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {['Lo', 'Ro'].map((side, to) => (
            <tr key={side} className="figure h-[28px] border-b text-right">
              <td className="text-left">{side}</td>
              {rows.map((row, c) => (
                <td key={c} className={row[to] ? '' : 'text-quiet'}>
                  {row[to] ? (row[to] === 1 ? '1' : row[to]!.toFixed(3)) : '·'}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
