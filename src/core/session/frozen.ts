import { hasRooms, linksOf, orderOf } from '@/core/paths';
import { FRONT } from '@/core/speakers';
import { isBus, type Bus, type Frozen, type SessionDoc, type Track } from './document';
import { feeding, frozenFrom } from './frozenFrom';
import { entryOf } from './ids';

/** Why a track or bus cannot be frozen, in a sentence; null where it can. */
export const freezeFault = (doc: SessionDoc, node: Track | Bus): string | null =>
  (isBus(node) ? busFault(doc, node) : trackFault(node)) ?? earlySend(doc, node);

const sounding = (t: Track): boolean => t.clips.some((c) => !c.muted);

function trackFault(track: Track): string | null {
  if (!sounding(track)) return `${track.name} has no clip that sounds; there is nothing to freeze.`;
  return track.chain.some((s) => s.on && s.key)
    ? `A stage of ${track.name} listens to another sound, so what it gives changes with that. Take its key away, or bypass it, to freeze the track.`
    : null;
}

function busFault(doc: SessionDoc, bus: Bus): string | null {
  if (bus.kind === 'reference') return `${bus.name} is the sum of its stems; freeze those.`;
  if (hasRooms(bus)) return `${bus.name} is there once for each stem that it is fed by; freeze those.`;
  const behind = feeding(doc, bus.id);
  if (!behind.some((n) => !isBus(n) && sounding(n)))
    return `Nothing that sounds comes to ${bus.name}; there is nothing to freeze.`;
  const ids = new Set(behind.map((n) => n.id));
  const { closing } = orderOf(doc);
  return linksOf(doc).all.some((l) => closing.has(l.id) && ids.has(l.to))
    ? `What comes to ${bus.name} runs in a circle. Take that apart to freeze it.`
    : null;
}

function earlySend(doc: SessionDoc, node: Track | Bus): string | null {
  const early = node.sends.find((s) => s.on && s.tap === 'arriving');
  if (!early) return null;
  const to = doc.buses.find((b) => b.id === early.to)?.name ?? early.to;
  const what = isBus(node) ? 'bus' : 'track';
  return `${node.name} is sent to ${to} from before its chain, which a frozen ${what} has no more. Take that send from behind the chain to freeze the ${what}.`;
}

/** Whether what a track or bus was frozen from is what it has now. Where not, it plays from what feeds it. */
export function isFresh(doc: SessionDoc, node: Track | Bus): boolean {
  const { frozen } = node;
  return (
    frozen !== undefined &&
    entryOf(doc.media, frozen.media) !== undefined &&
    freezeFault(doc, node) === null &&
    frozenFrom(doc, node) === frozen.from
  );
}

/** Frozen sound by the tracks and buses that play it. */
export type FrozenNodes = ReadonlyMap<string, Frozen>;

/** The tracks and buses that play what they were frozen to, as the session is. */
export const freshOf = (doc: SessionDoc): FrozenNodes =>
  new Map(
    [...doc.tracks, ...doc.buses].flatMap((n) => (n.frozen && isFresh(doc, n) ? [[n.id, n.frozen] as const] : [])),
  );

/** The track that plays what a bus was frozen to. */
export const frozenSource = (bus: string): string => `${bus}/frozen`;

/**
 * The session with the given tracks and buses playing what they were frozen to, in the place of their clips and chains. A
 * bus gets it from a track of its own (`frozenSource`); what sounds only in such buses rests.
 */
export function playedOf(doc: SessionDoc, frozen: FrozenNodes = freshOf(doc)): SessionDoc {
  if (frozen.size === 0) return doc;
  const rests = resting(doc, frozen);
  const sources = doc.buses.flatMap((b) => (rests.has(b.id) ? [] : sourceOf(doc, b, frozen.get(b.id))));
  const tracks = doc.tracks.map((t) =>
    rests.has(t.id) ? { ...t, chain: [], clips: [] } : frozenTrack(doc, t, frozen.get(t.id)),
  );
  const plays = new Set(sources.map((s) => s.destination));
  const buses = doc.buses.map((b) => {
    if (plays.has(b.id)) {
      const { frozen: _, ...rest } = b;
      return { ...rest, chain: [], trim: 0 };
    }
    return rests.has(b.id) ? { ...b, chain: [] } : b;
  });
  return { ...doc, tracks: [...tracks, ...sources], buses };
}

/** Tracks of a session from `playedOf` that play what a bus was frozen to, and links that give nothing beside them. */
export function frozenWays(played: SessionDoc): { sources: Set<string>; resting: Set<string> } {
  const ids = new Set(played.tracks.map((t) => t.id));
  const buses = played.buses.filter((b) => ids.has(frozenSource(b.id)));
  const sources = new Set(buses.map((b) => frozenSource(b.id)));
  const ways = buses.flatMap((b) =>
    linksOf(played)
      .to(b.id)
      .filter((l) => l.kind !== 'key' && !sources.has(l.from)),
  );
  return { sources, resting: new Set(ways.map((l) => l.id)) };
}

// What leads, over whatever lies between, to frozen buses only.
function resting(doc: SessionDoc, frozen: FrozenNodes): Set<string> {
  const links = linksOf(doc);
  const buses = new Set(doc.buses.filter((b) => frozen.has(b.id)).map((b) => b.id));
  const rests = new Set<string>();
  if (buses.size === 0) return rests;
  for (const node of orderOf(doc).nodes.reverse()) {
    const ways = links.from(node.id);
    const gone = (l: (typeof ways)[number]) => buses.has(l.to) || rests.has(l.to);
    if (ways.length > 0 && ways.every(gone)) rests.add(node.id);
  }
  return rests;
}

function clipOf(doc: SessionDoc, name: string, frozen: Frozen | undefined) {
  const media = frozen && entryOf(doc.media, frozen.media);
  if (!frozen || !media) return [];
  const { frames, id } = media;
  const clip = { id: 'frozen', media: id, start: frozen.start, offset: 0, length: frames, gain: 0 };
  return [{ ...clip, name: `${name}, frozen` }];
}

function frozenTrack(doc: SessionDoc, track: Track, frozen: Frozen | undefined): Track {
  const clips = clipOf(doc, track.name, frozen);
  if (clips.length === 0) return track;
  const { frozen: _, ...rest } = track;
  return { ...rest, chain: [], clips };
}

function sourceOf(doc: SessionDoc, bus: Bus, frozen: Frozen | undefined): Track[] {
  const clips = clipOf(doc, bus.name, frozen);
  if (clips.length === 0) return [];
  const { name, layout } = bus;
  return [
    {
      ...{ id: frozenSource(bus.id), name, layout, level: 0, muted: false, anchor: 'time', guide: false },
      ...{ placement: FRONT, destination: bus.id, sends: [], chain: [], inputs: [], clips, takes: [] },
    },
  ];
}
