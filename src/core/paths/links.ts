import { MONITOR, type PathBus, type PathDoc, type PathNode, type Tap } from './pathDoc';

/**
 * 'out': where a track or bus leads. 'send': a copy to another bus. 'key': what a stage's detector listens to. 'sum':
 * what a stem gives to the detector that limits its reference. 'listen': a line that is patched to a track.
 */
export type LinkKind = 'out' | 'send' | 'key' | 'sum' | 'listen';

/** One way of sound from a node to another. */
export interface Link {
  id: string;
  kind: LinkKind;
  from: string;
  to: string;
  tap: Tap;
  /** The stem that it belongs to, where a return is kept apart per stem; null: what belongs to no stem. */
  room?: string | null;
  /** Of a key: the stage that listens. Of a line: the channel that it feeds. */
  stage?: string;
  channel?: number;
}

/** Node of a reference whose stems are limited together: their sum, which is looked at. */
export const sumNode = (reference: string): string => `sum/${reference}`;

/** The list of links with what leaves and reaches each node. */
export class Links {
  private readonly leaving = new Map<string, Link[]>();
  private readonly reaching = new Map<string, Link[]>();

  constructor(readonly all: readonly Link[]) {
    for (const link of all) {
      put(this.leaving, link.from, link);
      put(this.reaching, link.to, link);
    }
  }

  from(id: string): readonly Link[] {
    return this.leaving.get(id) ?? [];
  }

  to(id: string): readonly Link[] {
    return this.reaching.get(id) ?? [];
  }

  /** Links by which the sound of `link` goes on: of a return with rooms those of the same room. */
  after(link: Link): readonly Link[] {
    return this.from(link.to).filter((l) => l.room === undefined || l.room === link.room);
  }
}

function put(map: Map<string, Link[]>, key: string, link: Link): void {
  const list = map.get(key);
  if (list) list.push(link);
  else map.set(key, [link]);
}

const known = new WeakMap<object, Links>();

/**
 * Every way that sound takes in a session, in document order. The only place that reads where tracks and buses lead;
 * what leads to a bus that is not there has no link.
 */
export function linksOf(doc: PathDoc): Links {
  const before = known.get(doc);
  if (before) return before;
  // A document that may still change must not be remembered.
  if (!Object.isFrozen(doc)) return new Links(listOf(doc));
  const links = latest && samePaths(latest.doc, doc) ? latest.links : new Links(listOf(doc));
  latest = { doc, links };
  known.set(doc, links);
  return links;
}

/** A level that is dragged changes no path: what was worked out last is mostly still right. */
let latest: { doc: PathDoc; links: Links } | null = null;

const PATH_MEMBERS = ['id', 'destination', 'sends', 'chain'] as const satisfies readonly (keyof PathNode)[];
const BUS_MEMBERS = ['kind', 'rooms', 'leftOut', 'linked'] as const satisfies readonly (keyof PathBus)[];

/** Whether all that the list of links is made of is the same, by identity: edits share what they do not change. */
function samePaths(a: PathDoc, b: PathDoc): boolean {
  const same = <T extends PathNode>(x: readonly T[], y: readonly T[], members: readonly (keyof T)[]): boolean =>
    x === y || (x.length === y.length && x.every((n, i) => n === y[i] || members.every((m) => n[m] === y[i]![m])));
  return (
    same(a.tracks, b.tracks, [...PATH_MEMBERS, 'inputs']) && same(a.buses, b.buses, [...PATH_MEMBERS, ...BUS_MEMBERS])
  );
}

function listOf(doc: PathDoc): Link[] {
  const buses = new Map(doc.buses.map((b) => [b.id, b]));
  const ids = new Set([...doc.tracks.map((t) => t.id), ...buses.keys()]);
  const nodes: readonly PathNode[] = [...doc.tracks, ...doc.buses];
  const list: Link[] = doc.tracks.flatMap((t) =>
    t.inputs.flatMap((line, channel): Link[] =>
      line === null
        ? []
        : [{ id: `${t.id}/in/${channel}`, kind: 'listen', from: line, to: t.id, tap: 'after', channel }],
    ),
  );
  const stem = (node: PathNode): string | null => firstStem(buses, node);
  for (const node of nodes) {
    for (const stage of node.chain)
      if (stage.key && stage.on && ids.has(stage.key))
        list.push({
          id: `${node.id}/key/${stage.id}`,
          kind: 'key',
          from: stage.key,
          to: node.id,
          tap: 'after',
          stage: stage.id,
        });
    list.push(...outsOf(doc, buses, node, stem));
    for (const send of node.sends) {
      const to = buses.get(send.to);
      if (!send.on || !to) continue;
      const room = hasRooms(to) ? { room: stem(node) } : {};
      list.push({ id: send.id, kind: 'send', from: node.id, to: to.id, tap: send.tap, ...room });
    }
  }
  return list;
}

/** Whether a bus is a return that is kept apart for each stem. */
export const hasRooms = (bus: Pick<PathBus, 'kind' | 'rooms'>): boolean =>
  bus.kind === 'return' && bus.rooms === 'each stem';

function outsOf(
  doc: PathDoc,
  buses: ReadonlyMap<string, PathBus>,
  node: PathNode,
  stem: (node: PathNode) => string | null,
): Link[] {
  const own = buses.get(node.id);
  if (own && hasRooms(own)) return roomOuts(doc, node, stem);
  const id = `${node.id}/out`;
  if (node.destination === MONITOR) return [{ id, kind: 'out', from: node.id, to: MONITOR, tap: 'after' }];
  const to = node.destination === null ? undefined : buses.get(node.destination);
  if (!to) return [];
  const room = hasRooms(to) ? { room: stem(node) } : {};
  if (own?.kind !== 'stem' || to.kind !== 'reference')
    return [{ id, kind: 'out', from: node.id, to: to.id, tap: 'after', ...room }];
  // A stem that goes to a reference goes to all of them but those that leave it out.
  return doc.buses
    .filter((b) => b.kind === 'reference' && !b.leftOut.includes(node.id))
    .flatMap((r): Link[] => [
      { id: r === to ? id : `${id}/${r.id}`, kind: 'out', from: node.id, to: r.id, tap: 'after' },
      ...(r.linked?.on
        ? [
            {
              id: `${node.id}/sum/${r.id}`,
              kind: 'sum' as const,
              from: node.id,
              to: sumNode(r.id),
              tap: 'after' as const,
            },
          ]
        : []),
    ]);
}

// What came from a stem goes back into it; what came from none goes where the return itself leads.
function roomOuts(doc: PathDoc, node: PathNode, stem: (node: PathNode) => string | null): Link[] {
  const feeding = [...doc.tracks, ...doc.buses].filter(
    (n) => n.destination === node.id || n.sends.some((s) => s.on && s.to === node.id),
  );
  const rooms = [...new Set(feeding.map(stem))];
  return rooms.flatMap((room): Link[] => {
    const to = room ?? node.destination;
    if (to === null || to === node.id) return [];
    if (to !== MONITOR && !doc.buses.some((b) => b.id === to)) return [];
    return [{ id: `${node.id}/out/${room ?? ''}`, kind: 'out', from: node.id, to, tap: 'after', room }];
  });
}

// The stem that a node is, or comes to by its own way out.
function firstStem(buses: ReadonlyMap<string, PathBus>, node: PathNode): string | null {
  const seen = new Set<string>();
  let at: PathNode | undefined = node;
  while (at && !seen.has(at.id)) {
    seen.add(at.id);
    const bus = buses.get(at.id);
    if (bus?.kind === 'stem') return bus.id;
    at = at.destination === null ? undefined : buses.get(at.destination);
  }
  return null;
}
