import { linksOf, type Link, type Links } from './links';
import { MONITOR, type PathBus, type PathDoc, type PathTrack } from './pathDoc';

/** The buses a sound passes from `destination` on by the ways out, in order; stops at a circle. */
export function pathFrom<B extends PathBus>(doc: PathDoc<PathTrack, B>, destination: string | null): B[] {
  const links = linksOf(doc);
  const path: B[] = [];
  let at = destination;
  while (at && at !== MONITOR) {
    const bus = doc.buses.find((b) => b.id === at);
    if (!bus || path.includes(bus)) break;
    path.push(bus);
    at = links.from(bus.id).find((l) => l.kind === 'out')?.to ?? null;
  }
  return path;
}

/** The stem a track's sound ends up in by its way out, if any. */
export const stemOfTrack = <B extends PathBus>(doc: PathDoc<PathTrack, B>, destination: string | null): B | undefined =>
  pathFrom(doc, destination).find((b) => b.kind === 'stem');

/** Links that carry sound on; keys and sums only tell a detector. */
export const sounds = (link: Link): boolean => link.kind === 'out' || link.kind === 'send';

/** Everything that is reached from a node, itself included, over links that `counts` lets pass. */
export function reachedFrom(doc: PathDoc, from: string, counts: (link: Link) => boolean = () => true): Set<string> {
  const links = linksOf(doc);
  const reached = new Set([from]);
  const seen = new Set<string>();
  const open = links.from(from).filter(counts);
  while (open.length > 0) {
    const link = open.pop()!;
    if (seen.has(link.id)) continue;
    seen.add(link.id);
    reached.add(link.to);
    open.push(...links.after(link).filter(counts));
  }
  return reached;
}

/** The shortest way from a node to another over links that `counts` lets pass; null where there is none. */
export function wayOf(
  links: Links,
  from: string,
  to: string,
  counts: (link: Link) => boolean = () => true,
): Link[] | null {
  if (from === to) return [];
  const by = new Map<string, Link>();
  const open = [from];
  for (let at = open.shift(); at !== undefined; at = open.shift()) {
    for (const link of links.from(at)) {
      if (!counts(link) || by.has(link.to) || link.to === from) continue;
      by.set(link.to, link);
      if (link.to === to) return wayBack(by, from, link);
      open.push(link.to);
    }
  }
  return null;
}

function wayBack(by: ReadonlyMap<string, Link>, from: string, last: Link): Link[] {
  const way = [last];
  while (way[0]!.from !== from) way.unshift(by.get(way[0]!.from)!);
  return way;
}

/** The nodes of the circle that a link from `from` to `to` would close, from `to` on; null when it closes none. */
export function circleOf(doc: PathDoc, from: string, to: string | null): string[] | null {
  if (to === null || to === MONITOR) return null;
  const way = wayOf(linksOf(doc), to, from);
  return way && [to, ...way.map((l) => l.to)];
}

/** Whether leading `from` into `to` would make sound run in a circle, by ways out, sends and keys. */
export const wouldLoop = (doc: PathDoc, from: string, to: string | null): boolean => circleOf(doc, from, to) !== null;

/** Whether a stage of `owner` that listens to `key` would close a circle: the sound of `key` depends on `owner`. */
export const keyWouldLoop = (doc: PathDoc, owner: string, key: string): boolean => wouldLoop(doc, key, owner);

/** The first stems that the sound of some links comes to, by ways out and sends. */
export function stemsBehind(doc: PathDoc, from: readonly Link[]): string[] {
  const links = linksOf(doc);
  const stems = new Set(doc.buses.filter((b) => b.kind === 'stem').map((b) => b.id));
  const found = new Set<string>();
  const seen = new Set<string>();
  const open = from.filter(sounds);
  while (open.length > 0) {
    const link = open.pop()!;
    if (seen.has(link.id)) continue;
    seen.add(link.id);
    if (stems.has(link.to)) found.add(link.to);
    else open.push(...links.after(link).filter(sounds));
  }
  return [...stems].filter((s) => found.has(s));
}

/**
 * The links that the sound of a node takes: all by which it goes on, of a return with rooms in the rooms that it is in;
 * of a bus also those by which sound comes to it.
 */
export function waysOf(doc: PathDoc, id: string): Set<string> {
  const links = linksOf(doc);
  const ways = new Set<string>();
  const on = [...links.from(id)].filter(sounds);
  while (on.length > 0) {
    const link = on.pop()!;
    if (ways.has(link.id)) continue;
    ways.add(link.id);
    on.push(...links.after(link).filter(sounds));
  }
  const back = [...links.to(id)].filter(sounds);
  const seen = new Set<string>();
  while (back.length > 0) {
    const link = back.pop()!;
    if (seen.has(link.id)) continue;
    seen.add(link.id);
    ways.add(link.id);
    // Of a return that is kept apart only what comes to the room that leads on here.
    back.push(
      ...links
        .to(link.from)
        .filter((l) => sounds(l) && (link.room === undefined || l.room === undefined || l.room === link.room)),
    );
  }
  return ways;
}
