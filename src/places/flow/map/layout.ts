import { linksOf, sounds, stemOfTrack, sumNode, type Link } from '@/core/paths';
import { MONITOR, referenceOf, stemsOf, type Bus, type SessionDoc, type Track } from '@/core/session';
import { layoutOf, widthOf } from '@/core/speakers';
import { columnsOf, type Columns } from './columns';
import { spread } from './spread';

/** Where everything stands on the map, in pixels; left is where sound comes from. */
export interface Box {
  id: string;
  kind: 'track' | 'bus' | 'fold' | 'monitor' | 'printed' | 'newBus';
  column: number;
  x: number;
  y: number;
  width: number;
  height: number;
  track?: Track;
  bus?: Bus;
  /** Tracks that stand for one box, where a stem is folded. */
  tracks?: Track[];
  /** Heights within the box at which bands land, from top to bottom. */
  inlets: number[];
}

export interface MapBand {
  id: string;
  link: Link;
  /** Further links that run in the same band, where sources are folded. */
  more: Link[];
  from: string;
  to: string;
  inlet: number;
  channels: number;
  /** Where it leaves, what it passes between on its way, and where it lands. */
  points: { x: number; y: number }[];
}

/** Stems that are limited together: where their brace stands. */
export interface Brace {
  reference: string;
  x: number;
  top: number;
  bottom: number;
}

export interface MapLayout {
  boxes: Box[];
  bands: MapBand[];
  braces: Brace[];
  width: number;
  height: number;
}

export interface MapRoom {
  width: number;
  height: number;
  /** Stems whose sources stand for one box. */
  folded?: ReadonlySet<string>;
}

export const NEW_BUS = 'new-bus';
export const PRINTED = 'printed';
export const foldId = (stem: string): string => `fold:${stem}`;

const TOP = 8;
/** Above a column whose stems are braced stands a line of text. */
const BRACED_TOP = 22;
const SIDE = 14;
const TRACK_HEIGHT = 42;
const NEW_BUS_HEIGHT = 34;
const MONITOR_HEIGHT = 96;
/** Of the box of a stem, group or return: name and two meters; then lines of text. */
const BUS_HEIGHT = 76;
const LINE = 15;
/** Between bands that pass a column, and between them and its boxes. */
const BAND_GAP = 4;
const BOX_GAP = 10;
const MOST_GAP = 96;
const LEAST_GAP = 46;
const WIDE = { sources: 176, between: 150, stems: 196, references: 176, ends: 124 } as const;
const NARROW = { sources: 148, between: 138, stems: 172, references: 164, ends: 118 } as const;

/** Thickness of a band: its channel count, without filling the map. */
export const thickness = (channels: number): number => Math.min(20, 2.5 + 1.5 * channels);

/** A thing in a column: a box, or a band that passes it. */
interface Item {
  id: string;
  box?: Box;
  /** Height in pixels. */
  height: number;
  weight: number;
  order: number;
}

/** Where a band passes a column. */
interface Pass {
  /** Thickness of the band, and its middle once it is placed. */
  thick: number;
  y: number;
}

/** Places boxes and bands so that no band runs behind a box it does not belong to. */
export function layoutMap(doc: SessionDoc, room: MapRoom): MapLayout {
  const columns = columnsOf(doc);
  const boxes = boxesOf(doc, columns, room.folded ?? new Set());
  const { xs, widths, width } = acrossOf(columns, room.width);
  for (const b of boxes) Object.assign(b, { x: xs[b.column], width: widths[b.column] });
  const byId = new Map(boxes.map((b) => [b.id, b]));
  const bands = bandsOf(doc, byId, room.folded ?? new Set());
  const passes = new Map<string, Pass[]>();
  const top = doc.buses.some((b) => b.kind === 'reference' && b.linked?.on) ? BRACED_TOP : TOP;
  for (let column = 0; column <= columns.ends; column++)
    placeColumn(column, boxes, bands, byId, passes, columns, { ...room, top });
  landBands(bands, byId, passes, { xs, widths });
  const height = Math.max(room.height, ...boxes.map((b) => b.y + b.height + 8));
  return { boxes, bands, braces: bracesOf(doc, byId), width, height };
}

const linesOf = (bus: Bus, files: number): number =>
  (bus.chain.some((s) => s.on) ? 1 : 0) + (bus.kind === 'stem' || bus.kind === 'reference' ? Math.max(1, files) : 1);

function heightOf(doc: SessionDoc, bus: Bus): number {
  const files = doc.deliverables.filter((d) => d.bus === bus.id).length;
  if (bus.kind !== 'reference') return BUS_HEIGHT + linesOf(bus, files) * LINE;
  const first = referenceOf(doc)?.id === bus.id;
  return 76 + widthOf(bus.layout) * 18.5 + (first ? 30 : 0) + linesOf(bus, files) * LINE;
}

function boxesOf(doc: SessionDoc, columns: Columns, folded: ReadonlySet<string>): Box[] {
  const box = (id: string, kind: Box['kind'], column: number, height: number, more: Partial<Box> = {}): Box => ({
    id,
    kind,
    column,
    x: 0,
    y: 0,
    width: 0,
    height,
    inlets: [],
    ...more,
  });
  const stemOf = (t: Track) => stemOfTrack(doc, t.destination);
  const boxes: Box[] = [];
  for (const stem of stemsOf(doc)) {
    const tracks = folded.has(stem.id) ? doc.tracks.filter((t) => stemOf(t)?.id === stem.id) : [];
    if (tracks.length > 0) boxes.push(box(foldId(stem.id), 'fold', 0, TRACK_HEIGHT, { tracks, bus: stem }));
  }
  for (const track of doc.tracks)
    if (!folded.has(stemOf(track)?.id ?? '')) boxes.push(box(track.id, 'track', 0, TRACK_HEIGHT, { track }));
  for (const bus of doc.buses) boxes.push(box(bus.id, 'bus', columns.of.get(bus.id)!, heightOf(doc, bus), { bus }));
  boxes.push(
    box(NEW_BUS, 'newBus', columns.stems, NEW_BUS_HEIGHT),
    box(MONITOR, 'monitor', columns.ends, MONITOR_HEIGHT),
    box(PRINTED, 'printed', columns.ends, 44 + doc.deliverables.length * 22),
  );
  return boxes;
}

function acrossOf(columns: Columns, room: number): { xs: number[]; widths: number[]; width: number } {
  const set = columns.ends <= 3 ? WIDE : NARROW;
  const widths = Array.from({ length: columns.ends + 1 }, (_, c) =>
    c === 0
      ? set.sources
      : c === columns.stems
        ? set.stems
        : c === columns.references
          ? set.references
          : c === columns.ends
            ? set.ends
            : set.between,
  );
  const filled = widths.reduce((sum, w) => sum + w, 2 * SIDE);
  const gap = Math.max(LEAST_GAP, Math.min(MOST_GAP, (room - filled) / columns.ends));
  const xs: number[] = [];
  let at = SIDE;
  for (const w of widths) {
    xs.push(at);
    at += w + gap;
  }
  return { xs, widths, width: Math.max(room, at - gap + SIDE) };
}

function bandsOf(doc: SessionDoc, boxes: ReadonlyMap<string, Box>, folded: ReadonlySet<string>): MapBand[] {
  const links = linksOf(doc);
  const shown = (id: string): string => {
    if (boxes.has(id)) return id;
    const track = doc.tracks.find((t) => t.id === id);
    const stem = track && stemOfTrack(doc, track.destination);
    return stem && folded.has(stem.id) ? foldId(stem.id) : id;
  };
  const bands = new Map<string, MapBand>();
  for (const link of links.all.filter(sounds)) {
    const [from, to] = [shown(link.from), link.to];
    const [a, b] = [boxes.get(from), boxes.get(to)];
    if (!a || !b) continue;
    const own = a.track ?? a.bus;
    const channels = widthOf(a.kind === 'fold' ? layoutOf(widest(a.tracks!)).id : own!.layout);
    // What is folded runs together; else each link has a band of its own, the first way out one that can be pulled.
    const first = link.kind === 'out' && links.from(link.from).find((l) => l.kind === 'out') === link;
    const id = a.kind === 'fold' ? `${from}>${to}/${link.kind}` : first ? `band:${link.from}` : `way:${link.id}`;
    const known = bands.get(id);
    if (known) known.more.push(link);
    else bands.set(id, { id, link, more: [], from, to, inlet: 0, channels, points: [] });
  }
  return [...bands.values()];
}

const widest = (tracks: readonly Track[]): Track['layout'] =>
  tracks.reduce((w, t) => (widthOf(t.layout) > widthOf(w) ? t.layout : w), tracks[0]!.layout);

/** Thickness of a band as it is drawn. */
export const thicknessOf = ({ link, channels }: Pick<MapBand, 'link' | 'channels'>): number =>
  link.kind === 'send' ? 2.5 : thickness(channels);

const middle = (box: Box): number => box.y + box.height / 2;

/** Height at which a band stood in the last column before `column`. */
function heightBefore(
  band: MapBand,
  column: number,
  boxes: ReadonlyMap<string, Box>,
  passes: Map<string, Pass[]>,
): number {
  const from = boxes.get(band.from)!;
  const passed = passes.get(band.id) ?? [];
  return passed[column - from.column - 2]?.y ?? middle(from);
}

function placeColumn(
  column: number,
  boxes: readonly Box[],
  bands: readonly MapBand[],
  byId: ReadonlyMap<string, Box>,
  passes: Map<string, Pass[]>,
  columns: Columns,
  room: MapRoom & { top: number },
): void {
  const own = boxes.filter((b) => b.column === column);
  if (column === 0) {
    // Close together when there are many, with air when there are few.
    const step = Math.max(TRACK_HEIGHT + 5, Math.min(62, (room.height - room.top - 16) / Math.max(1, own.length)));
    own.forEach((b, i) => (b.y = room.top + i * step));
    return;
  }
  const passing = bands.filter((b) => byId.get(b.from)!.column < column && byId.get(b.to)!.column > column);
  const wanted = new Map<string, number>();
  for (const b of own) {
    const arriving = bands.filter((x) => x.to === b.id && byId.get(x.from)!.column < column);
    const heights = arriving.map((x) => heightBefore(x, column, byId, passes));
    if (heights.length > 0) wanted.set(b.id, heights.reduce((sum, h) => sum + h, 0) / heights.length);
  }
  const items: (Item & { want: number })[] = [
    ...passing.map((b, i) => {
      const thick = thicknessOf(b);
      return { id: b.id, height: thick, weight: 1, order: i, want: heightBefore(b, column, byId, passes) };
    }),
    ...own.map((box, i) => ({
      id: box.id,
      box,
      height: box.height,
      weight: 4,
      order: i,
      want: wanted.get(box.id) ?? Number.POSITIVE_INFINITY,
    })),
  ];
  inOrder(items, column === columns.stems || column >= columns.references);
  const last = room.height;
  const things = items.map((i) => ({ ...i, want: Number.isFinite(i.want) ? i.want : last }));
  const gap = (i: number) => (things[i]!.box || things[i - 1]!.box ? BOX_GAP : BAND_GAP);
  spread(things, gap, room.top, room.height - TOP).forEach((y, i) => {
    const { box, id, height } = things[i]!;
    if (box) box.y = y;
    else put(passes, id, { thick: height, y: y + height / 2 });
  });
}

// Stems, references and ends keep their order; what passes stands between them where it comes from.
function inOrder(items: (Item & { want: number })[], kept: boolean): void {
  if (!kept) {
    items.sort((a, b) => a.want - b.want || a.order - b.order);
    return;
  }
  const boxes = items.filter((i) => i.box);
  const rest = items.filter((i) => !i.box).sort((a, b) => a.want - b.want || a.order - b.order);
  const sorted: typeof items = [];
  for (const box of boxes) {
    while (rest.length > 0 && rest[0]!.want < box.want) sorted.push(rest.shift()!);
    sorted.push(box);
  }
  items.splice(0, items.length, ...sorted, ...rest);
}

function put(map: Map<string, Pass[]>, id: string, pass: Pass): void {
  const list = map.get(id);
  if (list) list.push(pass);
  else map.set(id, [pass]);
}

/** Where band `i` of `n` lands on a box: spread, so that bands do not run into each other. */
const inletAt = (i: number, n: number, height: number): number => (height * (i + 0.7)) / (n + 0.4);

function landBands(
  bands: readonly MapBand[],
  byId: ReadonlyMap<string, Box>,
  passes: ReadonlyMap<string, Pass[]>,
  { xs, widths }: { xs: readonly number[]; widths: readonly number[] },
): void {
  const lastY = (b: MapBand) => passes.get(b.id)?.at(-1)?.y ?? middle(byId.get(b.from)!);
  for (const box of byId.values()) {
    const landing = bands.filter((b) => b.to === box.id).sort((a, b) => lastY(a) - lastY(b));
    box.inlets = (landing.length > 0 ? landing : [null]).map((_, i) =>
      inletAt(i, Math.max(1, landing.length), box.height),
    );
    landing.forEach((b, i) => (b.inlet = i));
  }
  for (const box of byId.values()) {
    const leaving = bands.filter((b) => b.from === box.id);
    leaving.forEach((b, i) => {
      // The ways out leave in the middle, sends below.
      const sends = leaving.filter((l) => l.link.kind === 'send').length;
      const outs = leaving.length - sends;
      const place = b.link.kind === 'send' ? 0.5 + 0.4 * ((i - outs + 1) / Math.max(1, sends)) : 0.5;
      const from = { x: box.x + box.width, y: box.y + box.height * place };
      const via = (passes.get(b.id) ?? []).flatMap(({ y }, p) => {
        const column = box.column + 1 + p;
        return [
          { x: xs[column]! - 6, y },
          { x: xs[column]! + widths[column]! + 6, y },
        ];
      });
      const to = byId.get(b.to)!;
      b.points = [from, ...via, { x: to.x, y: to.y + to.inlets[b.inlet]! }];
    });
  }
}

function bracesOf(doc: SessionDoc, byId: ReadonlyMap<string, Box>): Brace[] {
  const limited = doc.buses.filter((b) => b.kind === 'reference' && b.linked?.on);
  return limited.flatMap((reference, i): Brace[] => {
    const stems = linksOf(doc)
      .to(sumNode(reference.id))
      .flatMap((l) => byId.get(l.from) ?? []);
    if (stems.length === 0) return [];
    return [
      {
        reference: reference.id,
        x: stems[0]!.x + stems[0]!.width + 12 + i * 8,
        top: Math.min(...stems.map((s) => s.y)) - 2,
        bottom: Math.max(...stems.map((s) => s.y + s.height)) + 2,
      },
    ];
  });
}

/** A band as an SVG path: straight past columns, smooth between them. */
export function pathOf(points: readonly { x: number; y: number }[]): string {
  const [first, ...rest] = points;
  let d = `M${first!.x},${first!.y}`;
  let at = first!;
  for (const p of rest) {
    // Straight where it passes a column; what leads back goes round in a wide bow.
    const bend = Math.max(24, Math.abs(p.x - at.x) * 0.45);
    d += p.y === at.y ? `L${p.x},${p.y}` : `C${at.x + bend},${at.y} ${p.x - bend},${p.y} ${p.x},${p.y}`;
    at = p;
  }
  return d;
}
