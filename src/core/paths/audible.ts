import { sounds } from './follow';
import { linksOf, type Link, type Links } from './links';
import { orderOf } from './order';
import type { PathDoc } from './pathDoc';

/**
 * Links that let sound pass while something is soloed: all that lead to a soloed node, and those by which the sound of
 * a soloed one goes on. A return that is heard through solo takes what is heard of its feeders and gives it on; another
 * return stays silent unless it is meant itself. Null while nothing is soloed.
 */
export function openLinks(doc: PathDoc): Set<string> | null {
  const { nodes } = orderOf(doc);
  const soloed = new Set(nodes.filter((n) => n.soloed).map((n) => n.id));
  if (soloed.size === 0) return null;
  const links = linksOf(doc);
  const meant = leadingTo(links, soloed);
  const through = new Set(doc.buses.filter((b) => b.throughSolo).map((b) => b.id));
  const barred = new Set(doc.buses.filter((b) => b.kind === 'return' && !b.throughSolo).map((b) => b.id));
  const open = new Set<string>();
  // Feeders come first: whether anything arrives at a node is known when it is its turn.
  for (const { id } of nodes) {
    const chosen = soloed.has(id) || (!meant.has(id) && links.to(id).some((l) => open.has(l.id)));
    const lets = (l: Link) =>
      meant.has(l.to) || (chosen && !barred.has(l.to)) || ((chosen || meant.has(id)) && through.has(l.to));
    for (const l of links.from(id)) if (sounds(l) && lets(l)) open.add(l.id);
  }
  return open;
}

// The nodes themselves and all whose sound comes to them.
function leadingTo(links: Links, ids: ReadonlySet<string>): Set<string> {
  const found = new Set(ids);
  const open = [...ids];
  while (open.length > 0)
    for (const l of links.to(open.pop()!)) {
      if (!sounds(l) || found.has(l.from)) continue;
      found.add(l.from);
      open.push(l.from);
    }
  return found;
}

/**
 * Tracks that sound while something is soloed: soloed ones, and those whose sound passes a soloed bus. Null when
 * nothing is soloed.
 */
export function soloedTracks(doc: PathDoc): Set<string> | null {
  const open = openLinks(doc);
  if (!open) return null;
  const links = linksOf(doc);
  return new Set(
    doc.tracks.filter((t) => (t.soloed ?? false) || links.from(t.id).some((l) => open.has(l.id))).map((t) => t.id),
  );
}
