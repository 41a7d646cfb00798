import type { Edge, Node } from '@xyflow/react';
import { linksOf, openLinks, stemOfTrack, waysOf } from '@/core/paths';
import { exampleName } from '@/core/print';
import { isBus, stemsOf, type Bus, type SessionDoc, type Track } from '@/core/session';
import { stageKind } from '@/core/stages';
import { hueOf } from '@/parts';
import { levelKeys } from '../levelKeys';
import type { BandData } from './band';
import { layoutMap, pathOf, thicknessOf, type Box, type MapBand, type MapLayout, type MapRoom } from './layout';

/** What the map is drawn for. */
export interface MapView extends MapRoom {
  /** Grades of the checks by track or bus. */
  culprits: ReadonlyMap<string, string>;
  following: string | null;
  /** Whether a row is meant by what is typed. */
  found: (name: string) => boolean;
}

/** What is worked out once for all boxes. */
interface Known {
  /** Stems that tracks come to. */
  fed: ReadonlySet<string>;
  /** Names of the files that are printed from a bus. */
  files: (bus: string) => string[];
}

function filesOf(doc: SessionDoc): Known['files'] {
  const byBus = new Map<string, string[]>();
  try {
    for (const d of doc.deliverables) byBus.set(d.bus, [...(byBus.get(d.bus) ?? []), exampleName(doc, d)]);
  } catch {
    // The pattern cannot be read: the brief says so.
    return () => [];
  }
  return (bus) => byBus.get(bus) ?? [];
}

/** The last pixels of a band are for pulling it elsewhere. */
const PULLED = 36;

/** Half of the height that the text of a band takes. */
const LABEL = 7;

/** What the places on the map follow from, by identity or value. */
function placesOf(doc: SessionDoc, { width, height, folded }: MapRoom): readonly unknown[] {
  return [
    width,
    height,
    folded,
    linksOf(doc),
    doc.deliverables,
    ...doc.tracks.flatMap((t) => [t.id, t.layout]),
    ...doc.buses.flatMap((b) => [b.id, b.layout, b.chain, b.linked]),
  ];
}

let latest: { places: readonly unknown[]; map: MapLayout } | null = null;

/** The map as it is laid out; only what its boxes show is new where no path and no size changed. */
function laidOut(doc: SessionDoc, room: MapRoom): MapLayout {
  const places = placesOf(doc, room);
  if (!latest || latest.places.length !== places.length || latest.places.some((p, i) => p !== places[i])) {
    latest = { places, map: layoutMap(doc, room) };
    return latest.map;
  }
  const tracks = new Map(doc.tracks.map((t) => [t.id, t]));
  const buses = new Map(doc.buses.map((b) => [b.id, b]));
  const boxes = latest.map.boxes.map((b) => ({
    ...b,
    ...(b.track ? { track: tracks.get(b.track.id)! } : {}),
    ...(b.bus ? { bus: buses.get(b.bus.id)! } : {}),
    ...(b.tracks ? { tracks: b.tracks.map((t) => tracks.get(t.id)!) } : {}),
  }));
  return { ...latest.map, boxes };
}

/** Nodes and edges of the map. */
export function build(doc: SessionDoc, view: MapView): { nodes: Node[]; edges: Edge[]; map: MapLayout } {
  const map = laidOut(doc, view);
  const lit = view.following === null ? null : waysOf(doc, view.following);
  const open = openLinks(doc);
  const links = linksOf(doc);
  const isLit = (ids: readonly string[]) => lit === null || ids.some((id) => lit.has(id));
  const litBox = (b: Box): boolean => {
    const ids = b.kind === 'fold' ? b.tracks!.map((t) => t.id) : [b.id];
    if (lit === null) return b.track || b.bus ? view.found((b.track ?? b.bus)!.name) : true;
    return ids.some((id) => id === view.following || [...links.from(id), ...links.to(id)].some((l) => lit.has(l.id)));
  };
  // What solo silences: something is soloed, and no sound goes on from here.
  const silenced = (b: Box): boolean =>
    open !== null &&
    (b.track !== undefined || b.bus !== undefined) &&
    !(b.track ?? b.bus)!.soloed &&
    ![...links.from(b.id), ...links.to(b.id)].some((l) => open.has(l.id));
  const known: Known = {
    fed: new Set(doc.tracks.flatMap((t) => stemOfTrack(doc, t.destination)?.id ?? [])),
    files: filesOf(doc),
  };
  const nodes = map.boxes.map((b): Node => ({
    id: b.id,
    type: b.kind,
    position: { x: b.x, y: b.y },
    className: litBox(b) && !silenced(b) ? '' : 'is-dim',
    draggable: false,
    data: {
      width: b.width,
      height: b.height,
      trouble: view.culprits.get(b.id),
      inlets: b.inlets,
      ...dataOf(doc, b, known),
    },
  }));
  const braces = map.braces.map((b): Node => ({
    id: `brace:${b.reference}`,
    type: 'brace',
    position: { x: b.x, y: b.top },
    draggable: false,
    selectable: false,
    className: lit === null ? '' : 'is-dim',
    data: { height: b.bottom - b.top, reference: b.reference, name: doc.buses.find((x) => x.id === b.reference)!.name },
  }));
  const edges = map.bands.map((band): Edge => {
    const ids = [band.link, ...band.more].map((l) => l.id);
    return {
      id: band.id,
      type: 'band',
      source: band.from,
      target: band.to,
      targetHandle: `in${band.inlet}`,
      reconnectable: band.id.startsWith('band:') ? 'target' : false,
      deletable: false,
      data: { ...bandData(doc, band), dim: !isLit(ids) || (open !== null && !ids.some((id) => open.has(id))) },
    };
  });
  return { nodes: [...nodes, ...braces], edges, map };
}

/** What a box shows of a bus: while anything else of it changes the map stays as it is drawn. */
export type ShownBus = ReturnType<typeof shownOf>;

const shownOf = ({ id, name, code, kind, hue, layout, muted, soloed, rooms, leftOut, chain }: Bus) => ({
  ...{ id, name, code, kind, hue, layout, muted, soloed, rooms, leftOut },
  stages: chain.filter((s) => s.on).map((s) => stageKind(s.type).name),
});

/** The same of a track. */
export type ShownTrack = ReturnType<typeof shownTrack>;

const shownTrack = ({ id, name, layout, muted, soloed }: Track) => ({ id, name, layout, muted, soloed });

function dataOf(doc: SessionDoc, b: Box, { fed, files }: Known): Record<string, unknown> {
  if (b.kind === 'fold')
    return {
      bus: shownOf(b.bus!),
      count: b.tracks!.length,
      outs: b.tracks!.flatMap((t) => levelKeys(t, 'out')),
      ins: [],
    };
  const own = b.track ?? b.bus;
  if (!own) return {};
  const keys = { ins: levelKeys(own, 'in'), outs: levelKeys(own, 'out') };
  if (!isBus(own)) return { track: shownTrack(own), ...keys };
  const into = linksOf(doc)
    .to(own.id)
    .filter((l) => l.kind === 'out' && doc.buses.some((x) => x.id === l.from && x.kind === 'stem'));
  return { bus: shownOf(own), files: files(own.id), sources: into.length, foldable: fed.has(own.id), ...keys };
}

function bandData(doc: SessionDoc, band: MapBand): Omit<BandData, 'dim'> {
  const { link } = band;
  const own = doc.tracks.find((t) => t.id === link.from) ?? doc.buses.find((b) => b.id === link.from)!;
  const send = link.kind === 'send' ? (own.sends.find((s) => s.id === link.id)?.level ?? 0) : null;
  // A band has the colour of the stem that its sound goes to; a room of a return that of its stem.
  const stem =
    typeof link.room === 'string' && isBus(own)
      ? stemsOf(doc).find((s) => s.id === link.room)
      : isBus(own) && (own.kind === 'stem' || own.kind === 'reference')
        ? own
        : stemOfTrack(doc, link.kind === 'send' ? own.destination : link.to);
  const lost = stem === undefined && link.kind === 'out' && !(isBus(own) && own.kind === 'return');
  const [from, to] = [band.points[0]!, band.points[1]!];
  const place = 0.5;
  const last = band.points.at(-1)!;
  return {
    d: pathOf(band.points),
    hit: pathOf([...band.points.slice(0, -1), { x: last.x - PULLED, y: last.y }]),
    hue: lost ? 'var(--warn)' : hueOf(stem),
    width: thicknessOf(band),
    levels: levelKeys(own, 'out'),
    dashed: lost,
    send,
    silent: own.muted,
    label: {
      x: from.x + (to.x - from.x) * place,
      y: from.y + (to.y - from.y) * place - (to.y < from.y ? -LABEL : LABEL),
    },
  };
}
