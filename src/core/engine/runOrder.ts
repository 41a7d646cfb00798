import type { NodeRunner } from './nodeRunner';

/**
 * Nodes of a plan and those that sound on after it was changed, each after all that leads to it. The plan's order is
 * kept wherever what goes does not ask for another; where it would close a circle with a new link, its last
 * milliseconds are left out.
 */
export function runOrder(
  nodes: readonly NodeRunner[],
  gone: readonly NodeRunner[],
  byId: ReadonlyMap<string, NodeRunner>,
): NodeRunner[] {
  const all = [...nodes, ...gone];
  const owners = new Map(all.map((n) => [n.buffer, n]));
  const feeders = new Map(all.map((n) => [n, [] as NodeRunner[]]));
  for (const n of all)
    for (const link of [...n.links.values(), ...n.leaving]) {
      const to = owners.get(link.to);
      if (to) feeders.get(to)!.push(n);
    }
  // What is gone goes on listening to what it listened to, be that gone too.
  const before = new Map(gone.map((n) => [n.now.id, n]));
  const left = new Set(gone);
  for (const n of all)
    for (const key of Object.values(n.now.keys ?? {})) {
      const heard = (left.has(n) ? before.get(key) : undefined) ?? byId.get(key);
      if (heard) feeders.get(n)!.push(heard);
    }
  const seen = new Set<NodeRunner>();
  const order: NodeRunner[] = [];
  const visit = (n: NodeRunner): void => {
    if (seen.has(n)) return;
    seen.add(n);
    feeders.get(n)!.forEach(visit);
    order.push(n);
  };
  all.forEach(visit);
  return order;
}
