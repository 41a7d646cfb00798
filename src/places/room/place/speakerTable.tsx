'use client';
import { pathFrom } from '@/core/paths';
import { useRef } from 'react';
import { readLevel, setMeterOrder, useDoc, useMeterOrder, useMeterSpeakers, leavingKey } from '@/client';
import { sourceGains } from '@/core/engine';
import { busOf, referenceOf, type Track } from '@/core/session';
import { labelsIn, layoutOf, ordersOf, toStereo, type Layout } from '@/core/speakers';
import { formatDb, toDb } from '@/core/units';
import { Choice, Meter, PeakFigure, useFrame, useKernels, drawText } from '@/parts';
import { OneSpeaker } from './oneSpeaker';

/** What each speaker receives: of the selected source in dB, and of the whole mix live. */
export function SpeakerTable({ track }: { track: Track | null }) {
  const doc = useDoc();
  const k = useKernels();
  const reference = referenceOf(doc);
  const layout = layoutOf(doc.format.layout);
  const speakers = useMeterSpeakers(layout.id);
  const first = track ? pathFrom(doc, track.destination)[0] : undefined;
  const gains = k && track ? sourceGains(k, track, first ? busOf(doc, first.id).layout : doc.format.layout) : [];
  return (
    <>
      <div className="mb-1 flex items-baseline gap-3">
        <h2 className="title">What the speakers receive</h2>
        {track?.layout === 'mono' && <OneSpeaker track={track} />}
        <MeterOrder layout={layout} />
      </div>
      <table className="w-full">
        <thead>
          <tr className="small border-b text-left text-quiet [&_th]:py-1.5 [&_th]:font-[420]">
            <th>speaker</th>
            <th className="text-right">angle</th>
            <th className="pl-4 text-right">{track ? `from ${track.name}` : 'source'}</th>
            <th className="w-16.5 text-right">now</th>
            <th className="pl-6">the whole mix</th>
            <th className="text-right">peak</th>
          </tr>
        </thead>
        <tbody>
          {speakers.map((s) => {
            const c = s.channel;
            const gain = Math.sqrt(gains.reduce((sum, row) => sum + (row[c] ?? 0) ** 2, 0));
            return (
              <tr key={s.label} className="h-7.5 border-b" data-speaker={s.label}>
                <td className="font-[600]">{s.label}</td>
                <td className="figure text-right text-quiet">{s.lfe ? '–' : `${s.azimuth}°`}</td>
                <td className="figure pl-4 text-right" data-gain>
                  {gain > 1e-5 ? `${formatDb(toDb(gain))} dB` : '·'}
                </td>
                <td className="text-right">
                  {track && <SourceNow track={track} gains={gains.map((row) => row[c] ?? 0)} />}
                </td>
                <td className="w-[36%] pl-6">
                  <Meter keys={reference ? [leavingKey(reference.id, c)] : []} label={`Mix in ${s.label}`} />
                </td>
                <td className="text-right">
                  <PeakFigure keys={reference ? [leavingKey(reference.id, c)] : []} />
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

/** In which order the meters of this machine stand, here and below. */
function MeterOrder({ layout }: { layout: Layout }) {
  const order = useMeterOrder((s) => s.order);
  const orders = ordersOf(layout);
  if (orders.length < 2) return null;
  return (
    <span className="small ml-auto flex items-baseline gap-1 text-quiet">
      meters
      <Choice
        label="Order of the meters"
        look="bare"
        value={orders.some((o) => o.id === order) ? order : 'wav'}
        options={orders.map((o) => ({ value: o.id, label: o.name, note: labelsIn(layout, o.id).join(' ') }))}
        onChange={setMeterOrder}
      />
    </span>
  );
}

// Level of the source in one speaker: its channels' levels, each through its gain.
function SourceNow({ track, gains }: { track: Track; gains: number[] }) {
  const text = useRef<HTMLSpanElement>(null);
  useFrame(() => {
    const db = Math.max(-Infinity, ...gains.map((g, c) => readLevel(leavingKey(track.id, c)).db + toDb(g)));
    drawText(text.current, db > -90 ? formatDb(db) : '·');
  });
  return (
    <span ref={text} className="figure">
      ·
    </span>
  );
}

function FoldDown() {
  const doc = useDoc('format');
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
            <tr key={side} className="figure h-7 border-b text-right">
              <td className="text-left">{side}</td>
              {rows.map((row, c) => (
                <td key={c} className={row[to] ? '' : 'text-quiet'}>
                  {row[to] ? (row[to] === 1 ? '1' : row[to].toFixed(3)) : '·'}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
