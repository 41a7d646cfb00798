'use client';
import { Handle, Position, type NodeProps } from '@xyflow/react';
import { Plus } from 'lucide-react';
import { memo, useRef } from 'react';
import { readLoudness, useDoc } from '@/client';
import { monitorOf, referenceOf, type Bus, type Track } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { stageKind } from '@/core/stages';
import { formatDb } from '@/core/units';
import { Meter, PeakFigure, StemTag, useFrame } from '@/parts';
import { BUS_WIDTH, END_WIDTH, REFERENCE_WIDTH, TRACK_WIDTH } from './layout';

const border = (selected: boolean | undefined, trouble: unknown): string =>
  selected ? 'var(--brass)' : trouble === 'stop' ? 'var(--stop)' : trouble === 'warn' ? 'var(--warn)' : 'var(--line)';

/** Where band `i` of `n` lands on a box: spread, so that bands do not run into each other. */
const inletTop = (i: number, n: number, height: number): number => (height * (i + 0.7)) / (n + 0.4);

const keysOf = (kind: 'in' | 'out', id: string, channels: number): string[] =>
  Array.from({ length: channels }, (_, c) => `${kind}/${id}/${c}`);

function Marks({ muted, soloed }: { muted: boolean; soloed?: boolean }) {
  return (
    <>
      {muted && <span className="small font-[620] text-warn">muted</span>}
      {soloed && <span className="small font-[620] text-brass">solo</span>}
    </>
  );
}

export const TrackBox = memo(function TrackBox({ data, selected }: NodeProps) {
  const track = data.track as Track;
  const keys = keysOf('out', track.id, track.inputs.length);
  return (
    <div
      className="flex h-[42px] cursor-pointer flex-col justify-center gap-1 rounded-md border bg-panel px-2.5"
      style={{ width: TRACK_WIDTH, borderColor: border(selected, data.trouble) }}
      data-track={track.id}
      tabIndex={0}
      role="button"
      aria-label={`Track ${track.name}`}
    >
      <div className="flex items-baseline gap-1.5 leading-none">
        <b className="truncate font-[580]">{track.name}</b>
        <Marks muted={track.muted} soloed={track.soloed} />
        <span className="figure ml-auto text-quiet">{layoutOf(track.layout).name}</span>
      </div>
      <div className="flex items-center gap-2">
        <Meter keys={keys} label={`Level of ${track.name}`} className="flex-1" height={5} />
        <PeakFigure keys={keys} className="w-[5.2ch] text-right" />
      </div>
      <Handle type="source" position={Position.Right} />
    </div>
  );
});

export const BusBox = memo(function BusBox({ data, selected }: NodeProps) {
  const bus = data.bus as Bus;
  const files = data.files as string[];
  const reference = bus.kind === 'reference';
  const inlets = data.inlets as number;
  const speakers = layoutOf(bus.layout).speakers;
  const stages = bus.chain.filter((s) => s.on).map((s) => stageKind(s.type).name);
  return (
    <div
      className="relative flex cursor-pointer flex-col gap-1 rounded-md border bg-panel px-2.5 py-2"
      data-bus={bus.id}
      tabIndex={0}
      role="button"
      aria-label={`Bus ${bus.name}`}
      style={{
        width: reference ? REFERENCE_WIDTH : BUS_WIDTH,
        height: data.height as number,
        borderColor: border(selected, data.trouble),
      }}
    >
      {Array.from({ length: inlets }, (_, i) => (
        <Handle
          key={i}
          id={`in${i}`}
          type="target"
          position={Position.Left}
          style={{ top: inletTop(i, inlets, data.height as number) }}
        />
      ))}
      <div className="flex items-center gap-2 leading-none">
        {!reference && <StemTag bus={bus} />}
        <b className="truncate font-[600]">{bus.name}</b>
        <Marks muted={bus.muted} soloed={bus.soloed} />
        <span className="figure ml-auto text-quiet">{layoutOf(bus.layout).name}</span>
      </div>
      {reference ? (
        <ReferenceBody bus={bus} labels={speakers.map((s) => s.label)} sources={data.sources as number} />
      ) : (
        (['in', 'out'] as const).map((side) => (
          <div key={side} className="flex items-center gap-2 leading-none">
            <span className="small w-[20px] text-quiet">{side}</span>
            <Meter
              keys={keysOf(side, bus.id, speakers.length)}
              label={`${bus.name} ${side}`}
              className="flex-1"
              height={5}
            />
            <PeakFigure keys={keysOf(side, bus.id, speakers.length)} className="w-[5.2ch] text-right" />
          </div>
        ))
      )}
      <div className="small mt-auto flex flex-col truncate leading-[15px] text-quiet">
        {stages.length > 0 && <span className="truncate">{stages.join(', ')}</span>}
        {files.map((f) => (
          <span key={f} className="figure truncate text-[11px]!" title={`Printed as ${f}`}>
            ⇥ {f.replace(/\.\w+$/, '')}
          </span>
        ))}
        {files.length === 0 && (
          <span className={bus.kind === 'stem' ? 'text-warn' : 'text-quiet'}>
            {bus.kind === 'stem' ? 'not printed' : bus.kind}
          </span>
        )}
      </div>
      <Handle type="source" position={Position.Right} />
    </div>
  );
});

function ReferenceBody({ bus, labels, sources }: { bus: Bus; labels: string[]; sources: number }) {
  const doc = useDoc();
  const text = useRef<HTMLSpanElement>(null);
  const stems = doc.buses.filter((b) => b.kind === 'stem' && !bus.leftOut.includes(b.id)).length;
  // Loudness is followed of the first reference.
  const first = referenceOf(doc)?.id === bus.id;
  useFrame(() => {
    if (text.current && first) text.current.textContent = formatDb(readLoudness().integrated);
  });
  return (
    <>
      <div className="mt-1 flex flex-col gap-[7px]">
        {labels.map((l, c) => (
          <div key={l} className="flex items-center gap-2 leading-none">
            <span className="small w-[24px] text-quiet">{l}</span>
            <Meter keys={[`out/${bus.id}/${c}`]} label={`${bus.name} ${l}`} className="flex-1" height={5} />
          </div>
        ))}
      </div>
      {first && (
        <div className="mt-2 leading-tight">
          <span ref={text} className="figure text-[19px]!">
            –∞
          </span>{' '}
          <span className="small text-quiet">LUFS</span>
        </div>
      )}
      <div className={`small leading-tight ${first ? '' : 'mt-3'} ${sources >= stems ? 'text-fine' : 'text-warn'}`}>
        {sources} of {stems} stems arrive
      </div>
    </>
  );
}

export const EndBox = memo(function EndBox({ data, selected }: NodeProps) {
  const doc = useDoc();
  const monitor = monitorOf(doc);
  const { format } = doc;
  return (
    <div
      className="flex flex-col gap-1 rounded-md border bg-panel px-2.5 py-2"
      style={{ width: END_WIDTH, height: data.height as number, borderColor: border(selected, null) }}
    >
      <Handle type="target" position={Position.Left} />
      <b className="font-[600] leading-none">Monitor</b>
      <span className="figure">{formatDb(monitor.level)} dB</span>
      <Meter keys={['out/ears/0', 'out/ears/1']} label="Monitor" height={5} />
      <span className="small leading-tight text-quiet">
        {format.layout} → stereo
        <br />
        heard, not printed
      </span>
    </div>
  );
});

/** The files that come out: one row each, marked like the stem it is printed from. */
export const PrintedBox = memo(function PrintedBox({ data }: NodeProps) {
  const doc = useDoc();
  return (
    <div
      className="flex flex-col gap-[3px] rounded-md border border-dashed px-2.5 py-2"
      style={{ width: END_WIDTH, height: data.height as number }}
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

export const NewStemBox = memo(function NewStemBox() {
  return (
    <div
      className="small flex h-[34px] items-center gap-2 rounded-md border border-dashed px-3 text-quiet"
      style={{ width: BUS_WIDTH }}
      data-testid="new-stem"
    >
      <Handle type="target" position={Position.Left} />
      <Plus size={13} /> pull a band here: new stem
    </div>
  );
});
