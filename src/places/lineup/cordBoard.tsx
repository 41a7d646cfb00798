'use client';
import { BaseEdge, getBezierPath, ReactFlow, type Connection, type Edge, type EdgeProps } from '@xyflow/react';
import '@xyflow/react/dist/base.css';
import { useLayoutEffect, useMemo, useRef, useState } from 'react';
import { shallow } from 'zustand/shallow';
import { docNow, edit, useDevices, useDoc, type DeviceState } from '@/client';
import { channelOfLine, isLineOf, lineId, moveCord, patchEdits, swapLines, type SessionDoc } from '@/core/session';
import { toast } from 'sonner';
import { ALL, heightOf, LINE_STEP, LineBox, TRACK_STEP, TrackBox, type LineNode, type TrackNode } from './boardNodes';
import { CordBar, type CordEnd } from './cordBar';
import { patchInOrder, patchTold, unpatch } from './patching';

const MARGIN = 16;
/** Widths of the two columns, at least and at most; what is left between them belongs to the cords (px). */
const LINES = [270, 520] as const;
const TRACKS = [264, 440] as const;
const CORDS = 150;

/** Where the columns stand in a board of a width. */
function columns(width: number) {
  const share = Math.max(0, width - 2 * MARGIN - CORDS) / 2;
  const within = ([least, most]: readonly [number, number]) => Math.round(Math.min(most, Math.max(least, share)));
  const [lines, tracks] = [within(LINES), within(TRACKS)];
  return { lines, tracks, tracksAt: Math.max(MARGIN + lines + 90, width - MARGIN - tracks) };
}

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

function nodesOf(
  doc: Pick<SessionDoc, 'lines' | 'tracks'>,
  device: DeviceState,
  width: number,
): (LineNode | TrackNode)[] {
  const at = columns(width);
  const lines = device.lines.map((given, channel): LineNode => ({
    id: lineId(device.id, channel),
    type: 'line',
    position: { x: MARGIN, y: 8 + channel * LINE_STEP },
    draggable: false,
    data: {
      ...{ device, channel, width: at.lines },
      name: doc.lines.find((l) => l.id === lineId(device.id, channel))?.name ?? given,
    },
  }));
  let y = 8;
  const tracks = doc.tracks.map((track): TrackNode => {
    const node: TrackNode = {
      id: track.id,
      type: 'track',
      position: { x: at.tracksAt, y },
      draggable: false,
      data: { track, device: device.id, width: at.tracks },
    };
    y += heightOf(track) + TRACK_STEP - 46;
    return node;
  });
  return [...lines, ...tracks];
}

type Item = LineNode | TrackNode | Edge;

const isSame = (a: Item, b: Item): boolean => {
  const rest = ({ data: _data, ...own }: Item) =>
    'position' in own ? { ...own, ...own.position, position: null } : own;
  return shallow(a.data, b.data) && shallow(rest(a), rest(b));
};

/** What stays as it was stays the same object: the board draws and measures anew only what changed. */
function useKept<T extends Item>(now: readonly T[]): T[] {
  const before = useRef<ReadonlyMap<string, T>>(new Map());
  const kept = useMemo(
    () =>
      now.map((item) => {
        const was = before.current.get(item.id);
        return was && isSame(was, item) ? was : item;
      }),
    [now],
  );
  before.current = new Map(kept.map((item) => [item.id, item]));
  return kept;
}

const cordId = ({ track, channel }: CordEnd): string => `${track}:${channel}`;

function cordsOf(doc: Pick<SessionDoc, 'tracks'>, device: DeviceState): Edge[] {
  return doc.tracks.flatMap((track) =>
    track.inputs.flatMap((line, channel) => {
      if (!isLineOf(device.id, line)) return [];
      const colour = track.armed ? 'var(--rec)' : 'var(--quiet)';
      return [
        {
          id: cordId({ track: track.id, channel }),
          type: 'cord',
          source: line,
          sourceHandle: 'out',
          target: track.id,
          targetHandle: String(channel),
          data: { colour },
        },
      ];
    }),
  );
}

/**
 * The board where cords are pulled from lines to tracks. A cord that is pulled off at either end goes elsewhere, and
 * changes places with one that is there; Delete, or letting it go over nothing, takes it out.
 */
export function CordBoard() {
  const doc = useDoc('lines', 'tracks');
  const { list, shown } = useDevices();
  const device = list.find((d) => d.id === shown) ?? list[0]!;
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(960);
  useLayoutEffect(() => {
    const measure = () => setWidth(Math.max(700, box.current!.clientWidth));
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);
  const nodes = useKept(useMemo(() => nodesOf(doc, device, width), [doc, device, width]));
  const [chosen, setChosen] = useState<CordEnd | null>(null);
  const edges = useKept(
    useMemo(
      () => cordsOf(doc, device).map((e) => ({ ...e, selected: chosen !== null && e.id === cordId(chosen) })),
      [doc, device, chosen],
    ),
  );
  const dropped = useRef(false);
  const bottom = Math.max(...nodes.map((n) => n.position.y), 0) + 130;
  const endOf = (id: string): CordEnd => {
    const at = id.lastIndexOf(':');
    return { track: id.slice(0, at), channel: Number(id.slice(at + 1)) };
  };
  const join = (c: Connection) => {
    const line = channelOfLine(c.source);
    const track = doc.tracks.find((t) => t.id === c.target);
    try {
      const whole = docNow();
      if (track && c.targetHandle === ALL) patchTold(whole, patchInOrder(whole, device, line, track));
      else patchTold(whole, patchEdits(whole, device, line, c.target, Number(c.targetHandle)));
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  const moved = (old: Edge, c: Connection) => {
    const from = endOf(old.id);
    const other = doc.tracks.find((t) => t.id === c.target);
    if (other && c.targetHandle === ALL && old.source === c.source) {
      unpatch(from.track, from.channel);
      join(c);
      return;
    }
    const to = { track: c.target, channel: Number(c.targetHandle) };
    if (old.source === c.source) {
      if (cordId(from) !== cordId(to) && patchTold(docNow(), moveCord(docNow(), from, to), true)) setChosen(to);
      return;
    }
    // Its other end: another line feeds the channel; one that feeds something already changes places with it.
    const feeds = doc.tracks.some((t) => t.inputs.includes(c.source));
    if (feeds) edit(...swapLines(docNow(), old.source, c.source));
    else join({ ...c, target: from.track, targetHandle: String(from.channel) });
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div ref={box} className="min-h-0 flex-1" data-testid="cords">
        <ReactFlow
          nodes={nodes}
          edges={edges}
          nodeTypes={nodeTypes}
          edgeTypes={edgeTypes}
          onConnect={join}
          onEdgeClick={(_, e) => setChosen(endOf(e.id))}
          onPaneClick={() => setChosen(null)}
          onEdgesDelete={(gone) => {
            gone.map((e) => endOf(e.id)).forEach((end) => unpatch(end.track, end.channel));
            setChosen(null);
          }}
          edgesReconnectable
          onReconnectStart={() => void (dropped.current = true)}
          onReconnect={(old, c) => {
            dropped.current = false;
            moved(old, c);
          }}
          onReconnectEnd={(_, e) => {
            // Pulled off its channel and let go over nothing: the cord is out.
            const end = endOf(e.id);
            if (dropped.current) unpatch(end.track, end.channel);
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
            [width, Math.max(bottom, 560)],
          ]}
          minZoom={1}
          maxZoom={1}
          connectionRadius={28}
          connectionLineStyle={{ stroke: 'var(--brass)', strokeWidth: 2.5 }}
          deleteKeyCode={['Delete', 'Backspace']}
          proOptions={{ hideAttribution: true }}
        />
      </div>
      {chosen && <CordBar cord={chosen} onMoved={setChosen} />}
    </div>
  );
}
