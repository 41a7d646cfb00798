'use client';
import { ReactFlow, useReactFlow, ReactFlowProvider, type Connection, type Edge, type Node } from '@xyflow/react';
import '@xyflow/react/dist/base.css';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { docNow, edit, select, useChecks, useDoc, useSelection } from '@/client';
import { MONITOR } from '@/core/session';
import { isFound, setFlow, useFlow, wantBus } from '../flowState';
import { Band } from './band';
import { BraceBox, BusBox, FoldBox, MonitorBox, NewBusBox, PrintedBox, TrackBox } from './boxes';
import { build } from './build';
import { keepSame } from './keep';
import { NEW_BUS, PRINTED } from './layout';

const nodeTypes = {
  track: TrackBox,
  bus: BusBox,
  fold: FoldBox,
  monitor: MonitorBox,
  printed: PrintedBox,
  newBus: NewBusBox,
  brace: BraceBox,
};
const edgeTypes = { band: Band };

/** The box under a pointer; null: none. */
function boxAt(event: MouseEvent | TouchEvent): string | null {
  const at = 'changedTouches' in event ? event.changedTouches[0]! : event;
  const under = document.elementsFromPoint(at.clientX, at.clientY);
  const node = under.map((e) => e.closest('.react-flow__node')).find((e) => e !== null);
  return node?.getAttribute('data-id') ?? null;
}

/** The map: bands in stem colours, as thick as they have channels. */
export function FlowMap() {
  return (
    <ReactFlowProvider>
      <Map />
    </ReactFlowProvider>
  );
}

function useRoom() {
  const room = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 962, height: 600 });
  useLayoutEffect(() => {
    const observer = new ResizeObserver(() => {
      const { clientWidth: width = 962, clientHeight: height = 600 } = room.current ?? {};
      setSize((s) => (s.width === width && s.height === height ? s : { width, height }));
    });
    observer.observe(room.current!);
    return () => observer.disconnect();
  }, []);
  return { room, size };
}

function Map() {
  const doc = useDoc();
  const { room, size } = useRoom();
  const selected = useSelection((s) => s.selected?.id);
  const checks = useChecks((s) => s.checks);
  const { following, find, folded } = useFlow();
  /** Held over a box with Alt: followed as long as it is held. */
  const [peeked, setPeeked] = useState<string | null>(null);
  const before = useRef<{ nodes: Node[]; edges: Edge[] }>({ nodes: [], edges: [] });
  const { nodes, edges, map } = useMemo(() => {
    const culprits = new globalThis.Map(
      checks
        .filter((c) => c.place === 'flow' && c.grade !== 'note')
        .flatMap((c) => c.about.map((id) => [id, c.grade] as const)),
    );
    const there = (id: string | null) => [...doc.tracks, ...doc.buses].some((n) => n.id === id);
    const followed = peeked ?? following;
    const made = build(doc, {
      ...size,
      folded,
      culprits,
      following: there(followed) ? followed : null,
      found: (name) => isFound(find, name),
    });
    const chosen = made.nodes.map((n) => ({ ...n, selected: n.id === selected }));
    before.current = {
      nodes: keepSame(before.current.nodes, chosen),
      edges: keepSame(before.current.edges, made.edges),
    };
    return { ...before.current, map: made.map };
  }, [doc, checks, size, folded, following, peeked, find, selected]);
  useGoToFound(find, nodes);
  useWithin(map, size);

  const handlers = useHandlers(setPeeked);
  const extent = useMemo(
    (): [[number, number], [number, number]] => [
      [0, 0],
      [Math.max(map.width, size.width), Math.max(map.height, size.height)],
    ],
    [map.width, map.height, size.width, size.height],
  );
  return (
    <div
      ref={room}
      className="min-h-0 flex-1"
      data-testid="flow-map"
      onKeyDown={(e) => {
        if (e.key === 'Escape' && (following || find)) setFlow({ following: null, find: '' });
      }}
    >
      <ReactFlow
        nodes={nodes}
        edges={edges}
        nodeTypes={nodeTypes}
        edgeTypes={edgeTypes}
        {...handlers}
        nodesDraggable={false}
        nodesFocusable={false}
        edgesFocusable={false}
        onlyRenderVisibleElements={nodes.length > 60}
        zoomOnScroll={false}
        zoomOnPinch={false}
        zoomOnDoubleClick={false}
        panOnDrag={false}
        panOnScroll
        minZoom={1}
        maxZoom={1}
        translateExtent={extent}
        connectionRadius={24}
        reconnectRadius={16}
        deleteKeyCode={null}
        connectionLineStyle={LINE_STYLE}
        proOptions={PRO_OPTIONS}
      />
    </div>
  );
}

const LINE_STYLE = { stroke: 'var(--brass)', strokeWidth: 4 };
const PRO_OPTIONS = { hideAttribution: true };

const isTrack = (id: string): boolean => docNow().tracks.some((t) => t.id === id);

/** Leads a track or bus to where its band was let go; null: on the ground, where a bus is made for it. */
function lead(source: string, target: string | null): void {
  const { buses } = docNow();
  const track = isTrack(source);
  if (!track && !buses.some((b) => b.id === source)) return;
  if (target === null || target === NEW_BUS)
    return wantBus(track ? { tracks: [source] } : { buses: [source], kind: 'bus' as const });
  if (target === source || target === PRINTED || !(target === MONITOR || buses.some((b) => b.id === target))) return;
  if (track) edit({ type: 'sendTracks', tracks: [source], destination: target });
  else edit({ type: 'sendBus', bus: source, destination: target });
}

// Where a band is let go: anywhere on a box, or on the ground.
function drop(source: string, event: MouseEvent | TouchEvent): void {
  const target = boxAt(event);
  if (target !== null || (event.target as Element | null)?.closest?.('.react-flow')) lead(source, target);
}

/** What pointers do on the map. The same functions all the time: others would be handed on to every box and band. */
function useHandlers(setPeeked: (id: string | null) => void) {
  return useMemo(() => {
    let connected = false;
    const begin = () => void (connected = false);
    const connect = ({ source, target }: Connection) => {
      connected = true;
      lead(source, target);
    };
    return {
      onConnectStart: begin,
      onConnect: connect,
      onConnectEnd: (event: MouseEvent | TouchEvent, { fromNode }: { fromNode: { id: string } | null }) => {
        if (!connected && fromNode) drop(fromNode.id, event);
        // It is told twice of a band that was there.
        connected = true;
      },
      onReconnectStart: begin,
      onReconnect: (_old: Edge, c: Connection) => connect(c),
      onNodeClick: (_e: unknown, n: Node) => {
        if (n.type === 'track' || n.type === 'bus') select({ kind: n.type, id: n.id });
      },
      onNodeMouseEnter: (e: { altKey: boolean }, n: Node) => e.altKey && setPeeked(n.id),
      onNodeMouseMove: (e: { altKey: boolean }, n: Node) => setPeeked(e.altKey ? n.id : null),
      onNodeMouseLeave: () => setPeeked(null),
      onEdgeClick: (_e: unknown, edge: Edge) =>
        select({ kind: isTrack(edge.source) ? 'track' : 'bus', id: edge.source }),
    };
  }, [setPeeked]);
}

/** The map begins at the top and the left, and stays in view when it or the window gets smaller. */
function useWithin(map: { width: number; height: number }, size: { width: number; height: number }): void {
  const { setViewport, getViewport } = useReactFlow();
  useEffect(() => {
    const { x, y } = getViewport();
    const within = (at: number, room: number, full: number) => Math.min(0, Math.max(Math.min(0, room - full), at));
    const [nx, ny] = [within(x, size.width, map.width), within(y, size.height, map.height)];
    if (nx !== x || ny !== y) void setViewport({ x: nx, y: ny, zoom: 1 });
  }, [map.width, map.height, size.width, size.height, getViewport, setViewport]);
}

/** Brings the first row that is meant into view. */
function useGoToFound(find: string, nodes: readonly Node[]): void {
  const { setViewport, getViewport } = useReactFlow();
  useEffect(() => {
    if (!find.trim()) return;
    const first = nodes.find((n) => (n.type === 'track' || n.type === 'bus') && n.className === '');
    if (!first) return;
    const { x, y } = getViewport();
    const top = first.position.y + y;
    if (top < 0 || top > 500) void setViewport({ x, y: Math.min(0, 80 - first.position.y), zoom: 1 });
    // Only what is typed moves the map.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [find]);
}
