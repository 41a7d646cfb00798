'use client';
import {
  BaseEdge,
  getBezierPath,
  Handle,
  Position,
  ReactFlow,
  type Connection,
  type Edge,
  type EdgeProps,
  type Node,
  type NodeProps,
} from '@xyflow/react';
import '@xyflow/react/dist/base.css';
import { Headphones } from 'lucide-react';
import { memo, useMemo, useRef, useState } from 'react';
import { edit, select, useDevices, useDoc, useSelection, type DeviceState } from '@/client';
import { hearingOf, lineId, patchEdits, type InputHearing, type SessionDoc, type Track } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { ArmButton, Choice, Meter, PeakFigure } from '@/parts';
import { toast } from 'sonner';
import { patchInOrder, patchTold, unpatch } from './patching';

const LINE_STEP = 60;
const TRACK_STEP = 56;
const LINE_WIDTH = 400;
const TRACK_X = 580;
const TRACK_WIDTH = 336;
/** Handle that takes lines in order for all channels of a track. */
const ALL = 'all';

type LineNode = Node<{ device: DeviceState; channel: number; name: string }, 'line'>;
type TrackNode = Node<{ track: Track }, 'track'>;

const LineBox = memo(function LineBox({ data }: NodeProps<LineNode>) {
  const { device, channel, name } = data;
  const id = lineId(device.id, channel);
  const selected = useSelection((s) => s.selected?.kind === 'line' && s.selected.id === id);
  const keys = [`device/${device.slot}/${channel}`];
  return (
    <button
      className={`flex h-[50px] items-center gap-3 rounded-md border bg-panel px-3 text-left ${selected ? 'border-brass' : ''}`}
      style={{ width: LINE_WIDTH }}
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
      <Meter keys={keys} label={`Level of ${name}`} zone className="w-[150px]" />
      <span className="w-[52px] text-right leading-tight">
        <PeakFigure keys={keys} />
        <span className="small block text-quiet">peak</span>
      </span>
      <Handle type="source" position={Position.Right} id="out" aria-label={`Pull a cord from ${name}`} />
    </button>
  );
});

/** Microphone and supply in a word or two; a condenser without 48 V in red. */
function LineState({ id, fallback }: { id: string; fallback?: string }) {
  const line = useDoc().lines.find((l) => l.id === id);
  if (!line) return <>{fallback ?? 'not written down'}</>;
  const { kind, phantom } = line.sheet;
  return (
    <>
      {kind}
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

const TrackBox = memo(function TrackBox({ data: { track } }: NodeProps<TrackNode>) {
  const labels = layoutOf(track.layout).speakers.map((s) => s.label);
  return (
    <div
      className="relative flex items-center gap-3 rounded-md border bg-panel px-3"
      style={{ width: TRACK_WIDTH, height: heightOf(track) }}
      data-track={track.id}
    >
      <ArmButton track={track} />
      <span className="min-w-0 flex-1">
        <b className="block truncate font-[580]">{track.name}</b>
        <span className="small block text-quiet">{layoutOf(track.layout).name}</span>
      </span>
      <Headphones size={14} className="text-quiet" />
      <Choice
        look="bare"
        label={`When the input of ${track.name} is heard`}
        value={hearingOf(track)}
        options={HEARING}
        onChange={(hearing) => edit({ type: 'seatTrack', track: track.id, hearing: hearing as InputHearing })}
        className="small nodrag text-quiet"
      />
      {labels.length > 1 && (
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
          title={labels.length > 1 ? `${track.name} ${label}` : track.name}
        />
      ))}
    </div>
  );
});

const heightOf = (track: Track): number => Math.max(46, track.inputs.length * 15 + 8);
const channelTop = (track: Track, c: number): number => (heightOf(track) * (c + 0.5)) / track.inputs.length;

function Cord(props: EdgeProps) {
  const [path] = getBezierPath({ ...props, curvature: 0.4 });
  const colour = props.selected ? 'var(--brass)' : (props.data?.colour as string);
  return (
    <BaseEdge
      id={props.id}
      path={path}
      style={{ stroke: colour, strokeWidth: props.selected ? 3 : 2 }}
      interactionWidth={18}
    />
  );
}

const nodeTypes = { line: LineBox, track: TrackBox };
const edgeTypes = { cord: Cord };

function nodesOf(doc: SessionDoc, device: DeviceState): (LineNode | TrackNode)[] {
  const lines = device.lines.map((given, channel): LineNode => ({
    id: lineId(device.id, channel),
    type: 'line',
    position: { x: 16, y: 8 + channel * LINE_STEP },
    draggable: false,
    data: { device, channel, name: doc.lines.find((l) => l.id === lineId(device.id, channel))?.name ?? given },
  }));
  let y = 8;
  const tracks = doc.tracks.map((track): TrackNode => {
    const node: TrackNode = {
      id: track.id,
      type: 'track',
      position: { x: TRACK_X, y },
      draggable: false,
      data: { track },
    };
    y += heightOf(track) + TRACK_STEP - 46;
    return node;
  });
  return [...lines, ...tracks];
}

function cordsOf(doc: SessionDoc, device: DeviceState): Edge[] {
  return doc.tracks.flatMap((track) =>
    track.inputs.flatMap((line, channel) => {
      if (!line || !line.startsWith(`${device.id}/`)) return [];
      const colour = track.armed ? 'var(--rec)' : 'var(--quiet)';
      return [
        {
          id: `${track.id}:${channel}`,
          type: 'cord',
          source: line,
          sourceHandle: 'out',
          target: track.id,
          targetHandle: String(channel),
          data: { colour },
          reconnectable: 'target' as const,
        },
      ];
    }),
  );
}

/** The board where cords are pulled from lines to tracks; Delete, or letting it go over nothing, takes one out. */
export function CordBoard() {
  const doc = useDoc();
  const { list, shown } = useDevices();
  const device = list.find((d) => d.id === shown) ?? list[0]!;
  const nodes = useMemo(() => nodesOf(doc, device), [doc, device]);
  const [chosen, setChosen] = useState<string | null>(null);
  const edges = useMemo(
    () => cordsOf(doc, device).map((e) => ({ ...e, selected: e.id === chosen })),
    [doc, device, chosen],
  );
  const dropped = useRef(false);
  const bottom = Math.max(...nodes.map((n) => n.position.y), 0) + 130;
  const join = (c: Connection) => {
    const line = Number(c.source.split('/').at(-1)) - 1;
    const track = doc.tracks.find((t) => t.id === c.target);
    if (track && c.targetHandle === ALL) {
      try {
        patchTold(doc, patchInOrder(doc, device, line, track));
      } catch (error) {
        toast.error((error as Error).message);
      }
      return;
    }
    patchTold(doc, patchEdits(doc, device, line, c.target, Number(c.targetHandle)));
  };
  const apart = (id: string) => {
    const [track, channel] = id.split(':');
    unpatch(track!, Number(channel));
  };
  return (
    <div className="min-h-0 flex-1" data-testid="cords">
      <ReactFlow
        nodes={nodes}
        edges={edges}
        nodeTypes={nodeTypes}
        edgeTypes={edgeTypes}
        onConnect={join}
        onEdgeClick={(_, e) => setChosen(e.id)}
        onPaneClick={() => setChosen(null)}
        onEdgesDelete={(gone) => {
          gone.forEach((e) => apart(e.id));
          setChosen(null);
        }}
        onReconnectStart={() => void (dropped.current = true)}
        onReconnect={(old, c) => {
          dropped.current = false;
          if (old.source === c.source && old.target === c.target && old.targetHandle === c.targetHandle) return;
          apart(old.id);
          join(c);
        }}
        onReconnectEnd={(_, e) => {
          // Pulled off its channel and let go over nothing: the cord is out.
          if (dropped.current) apart(e.id);
          dropped.current = false;
        }}
        nodesDraggable={false}
        zoomOnScroll={false}
        zoomOnPinch={false}
        zoomOnDoubleClick={false}
        panOnDrag={false}
        panOnScroll
        panOnScrollMode={'vertical' as never}
        translateExtent={[
          [0, 0],
          [960, Math.max(bottom, 560)],
        ]}
        minZoom={1}
        maxZoom={1}
        connectionRadius={28}
        connectionLineStyle={{ stroke: 'var(--brass)', strokeWidth: 2.5 }}
        deleteKeyCode={['Delete', 'Backspace']}
        proOptions={{ hideAttribution: true }}
      />
    </div>
  );
}
