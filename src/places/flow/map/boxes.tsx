'use client';
import { clsx } from 'clsx';
import { Handle, Position, type NodeProps } from '@xyflow/react';
import { ChevronsDownUp, ChevronsUpDown, Plus } from 'lucide-react';
import { memo, useRef } from 'react';
import { readLoudness, readReduction, useDoc, useMeterSpeakers, leavingKey, useDocPart } from '@/client';
import { linkedLimiter } from '@/core/engine';
import { hasRooms } from '@/core/paths';
import { KIND_NAMES, monitorOf, referenceOf } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { formatDb } from '@/core/units';
import { Meter, PeakFigure, StemTag, useFrame, useMonitorWay, drawText } from '@/parts';
import { toggleFold } from '../flowState';
import { boxKeys } from './boxKeys';
import type { ShownBus, ShownTrack } from './build';

const border = (selected: boolean | undefined, trouble: unknown): string =>
  selected ? 'var(--brass)' : trouble === 'stop' ? 'var(--stop)' : trouble === 'warn' ? 'var(--warn)' : 'var(--line)';

function Marks({ muted, soloed }: { muted: boolean; soloed?: boolean }) {
  return (
    <>
      {muted && <span className="small font-[620] text-warn">muted</span>}
      {soloed && <span className="small font-[620] text-brass">solo</span>}
    </>
  );
}

/** What a box is given, beside what it shows. */
export interface BoxData extends Record<string, unknown> {
  width: number;
  height: number;
  trouble?: string;
  inlets: readonly number[];
  /** Names of its levels. */
  ins: readonly string[];
  outs: readonly string[];
}

const Inlets = ({ tops }: { tops: readonly number[] }) =>
  tops.map((top, i) => <Handle key={i} id={`in${i}`} type="target" position={Position.Left} style={{ top }} />);

export const TrackBox = memo(function TrackBox({ data, selected }: NodeProps) {
  const { width, trouble, outs } = data as BoxData;
  const track = data.track as ShownTrack;
  return (
    <div
      className="flex h-10.5 cursor-pointer flex-col justify-center gap-1 rounded-md border bg-panel px-2.5"
      style={{ width, borderColor: border(selected, trouble) }}
      data-track={track.id}
      data-box={track.id}
      tabIndex={0}
      role="button"
      aria-pressed={selected ?? false}
      aria-label={`Track ${track.name}`}
      onKeyDown={boxKeys('track', track.id)}
    >
      <div className="flex items-baseline gap-1.5 leading-none">
        <b className="truncate font-[580]">{track.name}</b>
        <Marks muted={track.muted} soloed={track.soloed} />
        <span className="figure ml-auto text-quiet">{layoutOf(track.layout).name}</span>
      </div>
      <div className="flex items-center gap-2">
        <Meter keys={outs} label={`Level of ${track.name}`} className="flex-1" height={5} />
        <PeakFigure keys={outs} className="w-[5.2ch] text-right" />
      </div>
      <Handle type="source" position={Position.Right} />
    </div>
  );
});

/** The sources of a stem that is folded. */
export const FoldBox = memo(function FoldBox({ data }: NodeProps) {
  const { width, outs } = data as BoxData;
  const [bus, count] = [data.bus as ShownBus, data.count as number];
  return (
    <div
      className="flex h-10.5 cursor-pointer flex-col justify-center gap-1 rounded-md border bg-panel px-2.5 shadow-[3px_3px_0_-1px_var(--line)]"
      style={{ width, borderColor: 'var(--line)' }}
      data-box={`fold:${bus.id}`}
      tabIndex={0}
      role="button"
      aria-label={`${count} sources of ${bus.name}, folded`}
      title="Unfold"
      onClick={() => toggleFold(bus.id)}
      onKeyDown={boxKeys('fold', bus.id)}
    >
      <div className="flex items-center gap-1.5 leading-none">
        <StemTag bus={bus} />
        <b className="truncate font-[580]">
          {count} {count === 1 ? 'source' : 'sources'}
        </b>
        <ChevronsUpDown size={13} className="ml-auto text-quiet" />
      </div>
      <Meter keys={outs} label={`Level of the sources of ${bus.name}`} height={5} />
      <Handle type="source" position={Position.Right} />
    </div>
  );
});

export const BusBox = memo(function BusBox({ data, selected }: NodeProps) {
  const { width, height, trouble, inlets, ins, outs } = data as BoxData;
  const bus = data.bus as ShownBus;
  const files = data.files as string[];
  const reference = bus.kind === 'reference';
  const { stages } = bus;
  return (
    <div className="group relative" style={{ width, height }}>
      <div
        className="absolute inset-0 flex cursor-pointer flex-col gap-1 rounded-md border bg-panel px-2.5 py-2"
        data-bus={bus.id}
        data-box={bus.id}
        tabIndex={0}
        role="button"
        aria-pressed={selected ?? false}
        aria-label={`Bus ${bus.name}`}
        style={{ borderColor: border(selected, trouble) }}
        onKeyDown={boxKeys('bus', bus.id)}
      >
        <div className="flex items-center gap-2 leading-none">
          {bus.kind === 'stem' && <StemTag bus={bus} />}
          <b className="truncate font-[600]">{bus.name}</b>
          <Marks muted={bus.muted} soloed={bus.soloed} />
          <span className="figure ml-auto text-quiet">{layoutOf(bus.layout).name}</span>
        </div>
        {reference ? (
          <ReferenceBody bus={bus} sources={data.sources as number} />
        ) : (
          (
            [
              ['in', ins],
              ['out', outs],
            ] as const
          ).map(([side, keys]) => (
            <div key={side} className="flex items-center gap-2 leading-none">
              <span className="small w-5 text-quiet">{side}</span>
              <Meter keys={keys} label={`${bus.name} ${side}`} className="flex-1" height={5} />
              <PeakFigure keys={keys} className="w-[5.2ch] text-right" />
            </div>
          ))
        )}
        <div className="small mt-auto flex flex-col truncate leading-3.75 text-quiet">
          {stages.length > 0 && <span className="truncate">{stages.join(', ')}</span>}
          {files.map((f) => (
            <span key={f} className="figure truncate text-small" title={`Printed as ${f}`}>
              ⇥ {f.replace(/\.\w+$/, '')}
            </span>
          ))}
          {files.length === 0 && <Kind bus={bus} />}
        </div>
      </div>
      <Inlets tops={inlets} />
      {(data.foldable as boolean) && (
        <button
          className="btn btn-bare absolute right-1 top-1 bg-panel p-1 opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
          aria-label={`Fold the sources of ${bus.name}`}
          title="Fold its sources"
          onClick={() => toggleFold(bus.id)}
        >
          <ChevronsDownUp size={13} />
        </button>
      )}
      <Handle type="source" position={Position.Right} />
    </div>
  );
});

function Kind({ bus }: { bus: ShownBus }) {
  if (bus.kind === 'stem') return <span className="text-warn">not printed</span>;
  if (hasRooms(bus)) return <span className="truncate text-brass">a room for each stem</span>;
  return <span>{KIND_NAMES[bus.kind]}</span>;
}

function ReferenceBody({ bus, sources }: { bus: ShownBus; sources: number }) {
  const doc = useDoc('buses');
  const speakers = useMeterSpeakers(bus.layout);
  const text = useRef<HTMLSpanElement>(null);
  const stems = doc.buses.filter((b) => b.kind === 'stem' && !bus.leftOut.includes(b.id)).length;
  // Loudness is followed of the first reference.
  const first = useDocPart((d) => referenceOf(d)?.id === bus.id);
  useFrame(() => {
    if (text.current && first) drawText(text.current, formatDb(readLoudness().integrated));
  });
  return (
    <>
      <div className="mt-1 flex flex-col gap-1.75">
        {speakers.map(({ label, channel }) => (
          <div key={label} className="flex items-center gap-2 leading-none">
            <span className="small w-6 text-quiet">{label}</span>
            <Meter keys={[leavingKey(bus.id, channel)]} label={`${bus.name} ${label}`} className="flex-1" height={5} />
          </div>
        ))}
      </div>
      {first && (
        <div className="mt-2 leading-tight">
          <span ref={text} className="figure text-word">
            –∞
          </span>{' '}
          <span className="small text-quiet">LUFS</span>
        </div>
      )}
      <div className={clsx('small leading-tight', !first && 'mt-3', sources >= stems ? 'text-fine' : 'text-warn')}>
        {sources} of {stems} stems arrive
      </div>
    </>
  );
}

export const MonitorBox = memo(function MonitorBox({ data, selected }: NodeProps) {
  const { width, height, inlets } = data as BoxData;
  const monitor = useDocPart(monitorOf);
  const way = useMonitorWay();
  return (
    <div
      className="flex flex-col gap-1 rounded-md border bg-panel px-2.5 py-2"
      style={{ width, height, borderColor: border(selected, null) }}
    >
      <Inlets tops={inlets} />
      <b className="font-[600] leading-none">Monitor</b>
      <span className="figure">{formatDb(monitor.level)} dB</span>
      <Meter keys={['out/ears/0', 'out/ears/1']} label="Monitor" height={5} />
      <span className="small leading-tight text-quiet">
        <span className="block truncate" title={way}>
          {way}
        </span>
        heard, not printed
      </span>
    </div>
  );
});

/** The files that come out: one row each, marked like the stem it is printed from. */
export const PrintedBox = memo(function PrintedBox({ data }: NodeProps) {
  const { width, height } = data as BoxData;
  const doc = useDoc('deliverables', 'buses');
  return (
    <div
      className="flex flex-col gap-0.75 rounded-md border border-dashed px-2.5 py-2"
      style={{ width, height }}
      data-testid="printed"
    >
      <b className="mb-1 flex items-baseline justify-between font-[600] leading-none">
        Printed <span className="small font-[420] text-quiet">{doc.deliverables.length} files</span>
      </b>
      {doc.deliverables.map((d) => {
        const bus = doc.buses.find((b) => b.id === d.bus);
        return (
          <span
            key={d.id}
            className="flex items-center gap-1.5 leading-none"
            title={`Printed from ${bus?.name ?? 'a missing bus'}`}
          >
            {bus && <StemTag bus={bus} />}
            <span className="figure truncate text-quiet">
              {d.token} {layoutOf(d.layout).name}
            </span>
          </span>
        );
      })}
    </div>
  );
});

export const NewBusBox = memo(function NewBusBox({ data }: NodeProps) {
  return (
    <div
      className="small flex h-8.5 items-center gap-2 rounded-md border border-dashed px-3 text-quiet"
      style={{ width: (data as BoxData).width }}
      data-testid="new-bus"
    >
      <Handle type="target" position={Position.Left} />
      <Plus size={13} /> pull here: new bus
    </div>
  );
});

/** Stems that are limited together, with the gain that is taken from all of them now. */
export const BraceBox = memo(function BraceBox({ data }: NodeProps) {
  const { height } = data as BoxData;
  const [reference, name] = [data.reference as string, data.name as string];
  const text = useRef<HTMLSpanElement>(null);
  const last = useRef(NaN);
  useFrame(() => {
    const db = Math.round(readReduction(linkedLimiter(reference)) * 10) / 10;
    if (!text.current || db === last.current) return;
    last.current = db;
    drawText(text.current, `${formatDb(db)} dB`);
  });
  return (
    <div
      className="pointer-events-none w-1.75 border-y-[1.5px] border-r-[1.5px] border-brass"
      style={{ height }}
      data-brace={reference}
    >
      <span
        className="small absolute bottom-full left-[-2px] whitespace-nowrap pb-0.5 leading-none text-brass"
        title={`The stems of ${name} are limited alike`}
      >
        limited alike · <span ref={text}>0.0 dB</span>
      </span>
    </div>
  );
});
