import CRC32 from 'crc-32';
import { linksOf, type Link } from '@/core/paths';
import { isBus, type Bus, type Clip, type Fade, type SessionDoc, type Stage, type Track } from './document';

// Lists, not objects: a session that comes back from the database has the members of its objects in another order.
const fadeOf = (fade: Fade | undefined) => (fade ? [fade.frames, fade.curve, fade.same ?? false] : null);

/** What of a clip is heard: its id, name, lock and group are not. */
const soundOf = (doc: SessionDoc) => (c: Clip) => [
  // What was frozen before files had an order stays as it is.
  ...(doc.media[c.media]?.order ? [doc.media[c.media]!.order] : []),
  ...[c.media, c.start, c.offset, c.length, c.gain, c.muted ?? false],
  ...[c.fadeIn, c.fadeOut, c.joint].map(fadeOf),
];

const sorted = (o: object | null) => o && Object.entries(o).sort(([one], [other]) => (one < other ? -1 : 1));

const stageOf = ({ id, type, on, key, values }: Stage) => [id, type, on, key ?? null, sorted(values)];

interface Known {
  made: readonly unknown[];
  from: number;
}
// Asked at every change of the session while it plays: what did not change is not read again.
const known = new WeakMap<object, Known>();

/**
 * Fingerprint (CRC-32) of everything that the sound behind a track's or bus's chain is made from: of a bus also of all
 * that comes to it.
 */
export function frozenFrom(doc: SessionDoc, node: Track | Bus): number {
  const bus = isBus(node);
  const made = bus
    ? [node.id, doc.tracks, doc.buses, doc.format.sampleRate, doc.lanes, doc.media]
    : [node.id, node.layout, doc.format.sampleRate, node.chain, doc.lanes, doc.media];
  const key = bus ? node : node.clips;
  const before = known.get(key);
  if (before?.made.every((m, i) => m === made[i])) return before.from;
  const from = bus ? busPrint(doc, node) : trackPrint(doc, node);
  // A document that may still change must not be remembered.
  if (Object.isFrozen(key) && (bus ? [doc.tracks, doc.buses] : [node.chain]).every(Object.isFrozen))
    if (Object.isFrozen(doc.lanes)) known.set(key, { made, from });
  return from;
}

const crc = (made: unknown): number => CRC32.str(JSON.stringify(made));

/** Lanes of a node that sound: of its stages, or all. */
const lanesOf = (doc: SessionDoc, id: string, all: boolean) =>
  Object.values(doc.lanes)
    .filter(({ target, on }) => target.node === id && on && (all || target.stage !== undefined))
    .map(({ target: { send, stage, param }, points }) => {
      const name = [send ?? '', stage ?? '', param].filter((part) => part !== '').join(' ');
      return [name, points.map((p) => [p.at, p.value, p.shape])] as const;
    })
    .sort(([one], [other]) => (one < other ? -1 : 1));

const trackPrint = (doc: SessionDoc, t: Track): number =>
  crc([t.layout, doc.format.sampleRate, t.clips.map(soundOf(doc)), t.chain.map(stageOf), lanesOf(doc, t.id, false)]);

function busPrint(doc: SessionDoc, bus: Bus): number {
  const behind = feeding(doc, bus.id);
  const ids = new Set(behind.map((n) => n.id));
  const links = linksOf(doc).all.filter((l) => ids.has(l.to) && l.kind !== 'listen');
  return crc([
    [bus.layout, bus.trim, bus.chain.map(stageOf), lanesOf(doc, bus.id, false)],
    behind.filter((n) => n !== bus).map((n) => [n.id, ...givenBy(doc, n)]),
    links.map((l) => [l.kind, l.from, l.to, l.tap, l.room ?? null]),
  ]);
}

// What a node on the way gives on: also its level, its place and its sends.
const givenBy = (doc: SessionDoc, n: Track | Bus) => [
  isBus(n) ? [n.layout, n.trim, n.chain.map(stageOf), n.linked && sorted(n.linked)] : trackPrint(doc, n),
  ...[n.level, n.muted, sorted(n.placement)],
  n.sends.map((s) => [s.id, s.on, s.to, s.tap, s.level, sorted(s.placement)]),
  lanesOf(doc, n.id, true),
];

/** Links that a sound depends on: ways in, and what detectors listen to. */
const counts = (l: Link): boolean => l.kind !== 'listen' && l.kind !== 'sum';

/** Tracks and buses that the sound of a bus is made of, itself among them, in the order of the session. */
export function feeding(doc: SessionDoc, id: string): (Track | Bus)[] {
  const links = linksOf(doc);
  const found = new Set([id]);
  const open = [id];
  for (let at = open.pop(); at !== undefined; at = open.pop())
    for (const l of links.to(at))
      if (counts(l) && !found.has(l.from)) {
        found.add(l.from);
        open.push(l.from);
      }
  return [...doc.tracks, ...doc.buses].filter((n) => found.has(n.id));
}
