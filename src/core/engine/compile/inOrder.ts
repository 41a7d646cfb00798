import type { PlanNode } from '../plan';

/** Nodes with each after all that feed it and all that it listens to, in the given order where free. */
export function inOrder(nodes: readonly PlanNode[]): PlanNode[] {
  const byId = new Map(nodes.map((n) => [n.id, n]));
  const before = new Map(nodes.map((n) => [n.id, Object.values(n.keys ?? {})]));
  for (const n of nodes) for (const l of n.links) before.get(l.to)?.push(n.id);
  const seen = new Set<string>();
  const order: PlanNode[] = [];
  const visit = (node: PlanNode): void => {
    if (seen.has(node.id)) return;
    seen.add(node.id);
    for (const id of before.get(node.id)!) {
      const feeder = byId.get(id);
      if (feeder) visit(feeder);
    }
    order.push(node);
  };
  nodes.forEach(visit);
  return order;
}
