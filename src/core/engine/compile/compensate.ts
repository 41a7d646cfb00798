import type { Stage } from '@/core/session';
import { stageKind } from '@/core/stages';
import type { PlanNode } from '../plan';

/** Samples that a chain delays. */
export const chainDelay = (chain: readonly Stage[], rate: number): number =>
  chain.reduce((sum, s) => sum + stageKind(s.type).delay(s.values, rate), 0);

const delayBefore = (node: PlanNode, stage: string, rate: number): number =>
  chainDelay(
    node.chain.slice(
      0,
      node.chain.findIndex((s) => s.id === stage),
    ),
    rate,
  );

/**
 * A node waits for its latest input: the others' links are delayed by the difference, which depends on where they take
 * their sound. What is heard of a line while it is recorded is not held back.
 */
export function compensate(nodes: PlanNode[], rate: number): void {
  const byId = new Map(nodes.map((n) => [n.id, n]));
  const arrival = new Map<string, number>();
  const arrive = (id: string, at: number) => arrival.set(id, Math.max(arrival.get(id) ?? 0, at));
  const lateness = (node: PlanNode, tap: string) => (tap === 'arriving' ? (arrival.get(node.id) ?? 0) : node.lead);
  for (const node of nodes) {
    // A key must be there when the sound reaches the stage that listens to it.
    for (const [stage, key] of Object.entries(node.keys ?? {}))
      arrive(node.id, (arrival.get(key) ?? 0) - delayBefore(node, stage, rate));
    if (node.kind === 'track' && arrival.get(node.id)) node.hold = arrival.get(node.id);
    for (const [stage, key] of Object.entries(node.keys ?? {}))
      arrival.set(key, (arrival.get(node.id) ?? 0) + delayBefore(node, stage, rate));
    node.lead = (arrival.get(node.id) ?? 0) + (node.kind === 'line' ? 0 : chainDelay(node.chain, rate));
    for (const l of node.links) if (byId.has(l.to) && node.kind !== 'line') arrive(l.to, lateness(node, l.tap));
  }
  for (const node of nodes) {
    node.links = node.links.filter((l) => byId.has(l.to));
    if (node.lanes) node.lanes.late = node.lead - chainDelay(node.chain, rate);
    for (const l of node.links) {
      if (node.kind !== 'line') l.delay = (arrival.get(l.to) ?? 0) - lateness(node, l.tap) + (l.wait ?? 0);
      if (l.lanes) l.lanes.late = arrival.get(l.to) ?? 0;
    }
  }
}
