import { sounds, wayOf } from './follow';
import { linksOf, type Link, type Links } from './links';
import type { PathBus, PathDoc, PathTrack } from './pathDoc';

export interface Order<N> {
  /** Tracks and buses, each after all that it depends on; in document order where free. */
  nodes: N[];
  /** Ids of links that would close a circle; the engine leaves them silent. */
  closing: Set<string>;
}

/**
 * Puts tracks and buses into processing order. Each circle is cut at the link that closes it: among ways out and sends
 * in document order; a key that closes one goes before any sound does.
 */
export function orderOf<T extends PathTrack, B extends PathBus>(doc: PathDoc<T, B>): Order<T | B> {
  const links = linksOf(doc);
  const nodes: (T | B)[] = [...doc.tracks, ...doc.buses];
  const closing = new Set<string>();
  const carries = (l: Link) => sounds(l) && !closing.has(l.id);
  walk(nodes, links, carries, (l) => closing.add(l.id));
  const counts = (l: Link) => carries(l) || (l.kind === 'key' && !closing.has(l.id) && kept.has(l.id));
  const kept = new Set<string>();
  for (const key of links.all) {
    if (key.kind !== 'key') continue;
    if (wayOf(links, key.to, key.from, counts)) closing.add(key.id);
    else kept.add(key.id);
  }
  return { nodes: walk(nodes, links, counts, () => {}), closing };
}

// Feeders first; a link from a node that is still open closes a circle.
function walk<N extends { id: string }>(
  nodes: readonly N[],
  links: Links,
  counts: (l: Link) => boolean,
  closes: (l: Link) => void,
): N[] {
  const byId = new Map(nodes.map((n) => [n.id, n]));
  const done: N[] = [];
  const state = new Map<string, 'open' | 'done'>();
  const visit = (node: N): void => {
    state.set(node.id, 'open');
    for (const link of links.to(node.id)) {
      if (!counts(link)) continue;
      const feeder = byId.get(link.from);
      if (state.get(link.from) === 'open') closes(link);
      else if (feeder && !state.has(link.from)) visit(feeder);
    }
    state.set(node.id, 'done');
    done.push(node);
  };
  for (const node of nodes) if (!state.has(node.id)) visit(node);
  return done;
}

export interface Circle<N> {
  /** In the order in which sound runs through them. */
  nodes: N[];
  /** The links between them, beginning with that from the first node. */
  links: Link[];
}

/** Circles that sound, sends or keys run in; one for each link that closes one. */
export function circles<T extends PathTrack, B extends PathBus>(doc: PathDoc<T, B>): Circle<T | B>[] {
  const links = linksOf(doc);
  const { nodes, closing } = orderOf(doc);
  const byId = new Map(nodes.map((n) => [n.id, n]));
  return links.all
    .filter((l) => closing.has(l.id))
    .flatMap((last) => {
      const way = wayOf(links, last.to, last.from, (l) => !closing.has(l.id));
      return way
        ? [{ nodes: [last.to, ...way.map((l) => l.to)].map((id) => byId.get(id)!), links: [...way, last] }]
        : [];
    });
}
