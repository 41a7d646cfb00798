'use client';
import { clsx } from 'clsx';
import { Handle, Position, type Node, type NodeProps } from '@xyflow/react';
import { Headphones } from 'lucide-react';
import { memo } from 'react';
import { edit, select, showDevice, useDevices, useDoc, useSelection, type DeviceState, deviceKey } from '@/client';
import { hearingOf, lineId, type InputHearing, type Track } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { ArmButton, Choice, Meter, PeakFigure } from '@/parts';

export const LINE_STEP = 60;
export const TRACK_STEP = 56;
/** Handle that takes lines in order for all channels of a track. */
export const ALL = 'all';

export type LineNode = Node<{ device: DeviceState; channel: number; name: string; width: number }, 'line'>;
export type TrackNode = Node<{ track: Track; device: string; width: number }, 'track'>;

export const heightOf = (track: Track): number => Math.max(46, track.inputs.length * 15 + 8);
const channelTop = (track: Track, c: number): number => (heightOf(track) * (c + 0.5)) / track.inputs.length;

export const LineBox = memo(function LineBox({ data }: NodeProps<LineNode>) {
  const { device, channel, name, width } = data;
  const id = lineId(device.id, channel);
  const selected = useSelection((s) => s.selected?.kind === 'line' && s.selected.id === id);
  const keys = [deviceKey(device.slot, channel)];
  return (
    <button
      className={clsx(
        'flex h-12.5 items-center gap-3 rounded-md border bg-panel px-3 text-left',
        selected && 'border-brass',
      )}
      style={{ width }}
      onClick={() => select({ kind: 'line', id })}
      data-line={id}
      aria-label={`Line ${channel + 1}, ${name}`}
    >
      <span className="figure w-[2ch] text-quiet">{channel + 1}</span>
      <span className="min-w-0 flex-1">
        <b className="block truncate font-[580]">{name}</b>
        <span className="small block truncate text-quiet">
          {device.state !== 'on' ? 'device is off · ' : ''}
          <LineState id={id} fallback={device.sheets[channel]?.kind} />
        </span>
      </span>
      <Meter keys={keys} label={`Level of ${name}`} zone className="w-[38%] min-w-22.5" />
      <span className="w-13 text-right leading-tight">
        <PeakFigure keys={keys} />
        <span className="small block text-quiet">peak</span>
      </span>
      <Handle type="source" position={Position.Right} id="out" aria-label={`Pull a cord from ${name}`} />
    </button>
  );
});

/** Microphone and supply in a word or two; a condenser without 48 V in red. */
function LineState({ id, fallback }: { id: string; fallback?: string | undefined }) {
  const line = useDoc('lines').lines.find((l) => l.id === id);
  if (!line) return <>{fallback ?? 'not written down'}</>;
  const { kind, model, phantom } = line.sheet;
  return (
    <>
      {model ? `${model}, ${kind}` : kind}
      {kind === 'condenser' && (phantom ? ' · 48 V' : <b className="font-[560] text-stop"> · no 48 V</b>)}
    </>
  );
}

const HEARING: { value: InputHearing; label: string }[] = [
  { value: 'always', label: 'always' },
  { value: 'never', label: 'never' },
  { value: 'armed', label: 'while armed' },
  { value: 'rolling', label: 'while rolling' },
];

export const TrackBox = memo(function TrackBox({ data: { track, device, width } }: NodeProps<TrackNode>) {
  const labels = layoutOf(track.layout).speakers.map((s) => s.label);
  const wide = labels.length > 1;
  return (
    <div
      className={clsx('relative flex items-center gap-3 rounded-md border bg-panel pr-3', wide ? 'pl-9.5' : 'pl-3')}
      style={{ width, height: heightOf(track) }}
      data-track={track.id}
    >
      {wide &&
        labels.map((label, c) => (
          <span
            key={label}
            className="figure absolute left-2.25 text-tiny leading-none text-quiet"
            style={{ top: channelTop(track, c) - 5 }}
          >
            {label}
          </span>
        ))}
      <Stubs track={track} device={device} />
      <ArmButton track={track} />
      <span className="min-w-0 flex-1">
        <b className="block truncate font-[580]">{track.name}</b>
        <span className="small block text-quiet">{layoutOf(track.layout).name}</span>
      </span>
      <Headphones size={14} className="shrink-0 text-quiet" />
      <Choice
        look="bare"
        label={`When the input of ${track.name} is heard`}
        value={hearingOf(track)}
        options={HEARING}
        onChange={(hearing) => edit({ type: 'seatTrack', track: track.id, hearing })}
        className="small nodrag text-quiet"
      />
      {wide && (
        <Handle
          type="target"
          position={Position.Left}
          id={ALL}
          className="handle-all"
          style={{ top: '50%', height: heightOf(track) - 8 }}
          title={`All ${labels.length} channels of ${track.name}, in order from the line that is pulled here`}
        />
      )}
      {labels.map((label, c) => (
        <Handle
          key={c}
          type="target"
          position={Position.Left}
          id={String(c)}
          style={{ top: channelTop(track, c) }}
          title={wide ? `${track.name} ${label}` : track.name}
        />
      ))}
    </div>
  );
});

/** Cords from devices that are not shown: their ends, with where they come from; pressed, that device is shown. */
function Stubs({ track, device }: { track: Track; device: string }) {
  const lines = useDoc('lines').lines;
  const list = useDevices((s) => s.list);
  return track.inputs.map((id, c) => {
    const line = lines.find((l) => l.id === id);
    if (!line || line.device === device) return null;
    const from = list.find((d) => d.id === line.device);
    return (
      <button
        key={id}
        className="nodrag figure absolute right-full mr-1.75 flex max-w-27.5 items-center gap-1 whitespace-nowrap text-tiny leading-none text-quiet hover:text-brass"
        style={{ top: channelTop(track, c) - 5 }}
        title={`${line.name}, line ${line.channel + 1} of ${from?.name ?? 'a device that is not there'}: show it`}
        aria-label={`${track.name} has ${line.name} of ${from?.name ?? 'a device that is not there'}: show it`}
        disabled={!from}
        onClick={() => {
          showDevice(line.device);
          select({ kind: 'line', id: line.id });
        }}
      >
        <span className="truncate">{line.name}</span>
        <span className={clsx('h-0.5 w-3.5 shrink-0', from ? 'bg-quiet' : 'bg-warn')} />
      </button>
    );
  });
}
