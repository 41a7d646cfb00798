'use client';
import { linksOf, stemOfTrack, type Link } from '@/core/paths';
import { ReactFlow, type Connection, type Edge, type Node } from '@xyflow/react';
import '@xyflow/react/dist/base.css';
import { useLayoutEffect, useMemo, useRef, useState } from 'react';
import { edit, select, useChecks, useDoc, useSelection } from '@/client';
import { printName } from '@/core/print';
import { type SessionDoc } from '@/core/session';
import { widthOf } from '@/core/speakers';
import { hueOf } from '@/parts';
import { Band } from './band';
import { layoutMap, NEW_STEM, PRINTED } from './layout';
import { BusBox, EndBox, NewStemBox, PrintedBox, TrackBox } from './boxes';

const nodeTypes = { track: TrackBox, bus: BusBox, end: EndBox, newStem: NewStemBox, printed: PrintedBox };
const edgeTypes = { band: Band };

/** Thickness of a band: its channel count, without filling the map. */
const thickness = (channels: number): number => 2.5 + 1.5 * channels;

function fileNames(doc: SessionDoc, bus: string): string[] {
  try {
    return doc.deliverables.filter((d) => d.bus === bus).map((d) => printName(doc, d, doc.range.start, 1));
  } catch {
    return [];
  }
}

/** As many inlets as bands arrive, at least one. */
const inletsOf = (doc: SessionDoc, bus: string): number => Math.max(1, waysInto(doc, bus).length);

const waysInto = (doc: SessionDoc, bus: string): Link[] =>
  linksOf(doc)
    .to(bus)
    .filter((l) => l.kind === 'out');

/** The ways out of a track or bus; the first is the one that is pulled elsewhere. */
const waysOut = (doc: SessionDoc, id: string): Link[] =>
  linksOf(doc)
    .from(id)
    .filter((l) => l.kind === 'out');

function build(doc: SessionDoc, height: number, culprits: Map<string, string>) {
  const map = layoutMap(doc, height);
  const nodes: Node[] = [
    ...map.tracks.map((s): Node => ({
      id: s.id,
      type: 'track',
      position: { x: s.x, y: s.y },
      data: { track: s.track, hue: hueOf(stemOfTrack(doc, s.track.destination)), trouble: culprits.get(s.id) },
    })),
    ...map.buses.map((s): Node => ({
      id: s.id,
      type: 'bus',
      position: { x: s.x, y: s.y },
      data: {
        bus: s.bus,
        height: s.height,
        files: fileNames(doc, s.id),
        trouble: culprits.get(s.id),
        sources: waysInto(doc, s.id).filter((l) => doc.buses.some((b) => b.id === l.from)).length,
        inlets: inletsOf(doc, s.id),
      },
    })),
    ...map.ends.map((s): Node => ({
      id: s.id,
      type: s.id === NEW_STEM ? 'newStem' : s.id === PRINTED ? 'printed' : 'end',
      position: { x: s.x, y: s.y },
      data: { height: s.height },
    })),
  ];
  const edges: Edge[] = [];
  const landed = new Map<string, number>();
  // Each band has an inlet of its own, in the order of the map.
  const inlet = (to: string): string | undefined => {
    if (!doc.buses.some((b) => b.id === to)) return undefined;
    const n = landed.get(to) ?? 0;
    landed.set(to, n + 1);
    return `in${n}`;
  };
  for (const t of doc.tracks) {
    const stem = stemOfTrack(doc, t.destination);
    for (const [i, way] of waysOut(doc, t.id).entries())
      edges.push({
        id: i === 0 ? `band:${t.id}` : `way:${way.id}`,
        type: 'band',
        source: t.id,
        target: way.to,
        targetHandle: inlet(way.to),
        reconnectable: i === 0 ? 'target' : false,
        deletable: false,
        data: {
          hue: stem ? hueOf(stem) : 'var(--warn)',
          width: thickness(widthOf(t.layout)),
          channels: widthOf(t.layout),
          dashed: !stem,
          silent: t.muted,
        },
      });
  }
  for (const b of doc.buses) {
    const trouble = culprits.has(b.id) && b.kind !== 'reference';
    for (const [i, way] of waysOut(doc, b.id).entries())
      edges.push({
        id: i === 0 ? `band:${b.id}` : `way:${way.id}`,
        type: 'band',
        source: b.id,
        target: way.to,
        targetHandle: inlet(way.to),
        reconnectable: i === 0 ? 'target' : false,
        deletable: false,
        data: {
          hue: trouble ? 'var(--warn)' : hueOf(b),
          width: thickness(widthOf(b.layout)),
          channels: widthOf(b.layout),
          dashed: trouble,
          silent: b.muted,
        },
      });
  }
  return { nodes: nodes.map((n) => ({ ...n, draggable: false })), edges, height: map.height };
}

/** The map: bands in stem colours, as thick as they have channels. */
export function FlowMap({ onNewStem }: { onNewStem: (track: string) => void }) {
  const doc = useDoc();
  const room = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(600);
  useLayoutEffect(() => {
    const observer = new ResizeObserver(() => setHeight(room.current?.clientHeight ?? 600));
    observer.observe(room.current!);
    return () => observer.disconnect();
  }, []);
  const selected = useSelection((s) => s.selected?.id);
  const checks = useChecks((s) => s.checks);
  const {
    nodes,
    edges,
    height: full,
  } = useMemo(() => {
    const culprits = new Map(
      checks
        .filter((c) => c.place === 'flow' && c.grade !== 'note')
        .flatMap((c) => c.about.map((id) => [id, c.grade] as const)),
    );
    return build(doc, height, culprits);
  }, [doc, checks, height]);
  const shown = useMemo(() => nodes.map((n) => ({ ...n, selected: n.id === selected })), [nodes, selected]);

  const lead = ({ source, target }: Connection) => {
    if (target === NEW_STEM) {
      if (doc.tracks.some((t) => t.id === source)) onNewStem(source);
      return;
    }
    if (doc.tracks.some((t) => t.id === source)) edit({ type: 'sendTracks', tracks: [source], destination: target });
    else edit({ type: 'sendBus', bus: source, destination: target });
  };
  return (
    <div ref={room} className="min-h-0 flex-1" data-testid="flow-map">
      <ReactFlow
        nodes={shown}
        edges={edges}
        nodeTypes={nodeTypes}
        edgeTypes={edgeTypes}
        onConnect={lead}
        onReconnect={(_old, c) => lead(c)}
        onNodeClick={(_e, n) =>
          (n.type === 'track' || n.type === 'bus') && select({ kind: n.type === 'track' ? 'track' : 'bus', id: n.id })
        }
        onEdgeClick={(_e, edge) =>
          select({ kind: doc.tracks.some((t) => t.id === edge.source) ? 'track' : 'bus', id: edge.source })
        }
        nodesDraggable={false}
        zoomOnScroll={false}
        zoomOnPinch={false}
        zoomOnDoubleClick={false}
        panOnDrag={false}
        panOnScroll
        panOnScrollMode={'vertical' as never}
        minZoom={1}
        maxZoom={1}
        translateExtent={[
          [0, 0],
          [962, full],
        ]}
        connectionRadius={40}
        reconnectRadius={16}
        deleteKeyCode={null}
        connectionLineStyle={{ stroke: 'var(--brass)', strokeWidth: 4 }}
        proOptions={{ hideAttribution: true }}
      />
    </div>
  );
}
