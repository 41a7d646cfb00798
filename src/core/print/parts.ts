import type { Plan, PlanNode } from '@/core/engine';

/** What one worker prints of a plan. The first part holds the reference and takes what the others give. */
export interface PlanPart {
  plan: Plan;
  /** Nodes whose sound comes from another part, or goes to the first one. */
  takes: string[];
  gives: string[];
}

/**
 * Splits a plan into at most `count` parts that can run beside each other. Where the stems come together (references, and
 * the limiting of all stems of one) and all behind it stay together in the first part; what comes before falls into groups that do not
 * touch each other, and these are shared out by their weight. Every node runs in one part only, sums are made in
 * the plan's order: the samples are the same as in one piece, to the last bit.
 */
export function partsOf(plan: Plan, count: number): PlanPart[] {
  const whole = [{ plan, takes: [], gives: [] }];
  if (count < 2) return whole;
  const meeting = meetingOf(plan);
  if (meeting.length === 0) return whole;
  const tail = reachedFrom(plan, meeting);
  // Passed on is what a node gives after its level: one that also gives something else must be here.
  const gives = plan.nodes.filter((n) => !tail.has(n.id) && n.links.some((l) => tail.has(l.to)));
  if (gives.some((n) => n.links.some((l) => tail.has(l.to) && l.tap !== 'after'))) return whole;
  const groups = groupsOf(plan.nodes.filter((n) => !tail.has(n.id)));
  if (groups.length < 2) return whole;
  const shares = Array.from({ length: Math.min(count, groups.length) }, (_, i) => ({
    ids: new Set<string>(i === 0 ? tail : []),
    weight: i === 0 ? weightOf(plan.nodes.filter((n) => tail.has(n.id))) : 0,
  }));
  for (const group of groups.sort((a, b) => weightOf(b) - weightOf(a))) {
    const lightest = shares.reduce((least, s) => (s.weight < least.weight ? s : least));
    group.forEach((n) => lightest.ids.add(n.id));
    lightest.weight += weightOf(group);
  }
  return shares.map(({ ids }, i) => cut(plan, ids, tail, i === 0));
}

// Where stems come together: the references and what looks at their sums; else the bus that most others feed.
function meetingOf(plan: Plan): string[] {
  const fedBy = (id: string) => plan.nodes.filter((n) => n.kind === 'bus' && n.links.some((l) => l.to === id)).length;
  const met = plan.nodes.filter((n) => (n.kind === 'sum' || n.reference) && fedBy(n.id) > 0);
  if (met.some((n) => fedBy(n.id) > 1)) return met.map((n) => n.id);
  const [most] = plan.nodes.filter((n) => n.kind === 'bus').sort((a, b) => fedBy(b.id) - fedBy(a.id));
  return most && fedBy(most.id) > 1 ? [most.id] : [];
}

// Chains cost by their channels; a printed file costs about as much again.
const weightOf = (nodes: readonly PlanNode[]): number =>
  nodes.reduce((sum, n) => sum + n.channels * (1 + n.chain.length) + (n.kind === 'bus' ? 4 * n.channels : 0), 0);

function reachedFrom(plan: Plan, ids: readonly string[]): Set<string> {
  const out = new Set(ids);
  // Nodes stand in processing order: one pass finds all behind, and what listens to it.
  for (const n of plan.nodes) {
    if (Object.values(n.keys ?? {}).some((key) => out.has(key))) out.add(n.id);
    if (out.has(n.id)) for (const l of n.links) out.add(l.to);
  }
  return out;
}

/** Nodes that are linked with each other, in whatever direction. */
function groupsOf(nodes: readonly PlanNode[]): PlanNode[][] {
  const group = new Map(nodes.map((n) => [n.id, new Set([n.id])]));
  const join = (a: string, b: string) => {
    const [one, other] = [group.get(a), group.get(b)];
    if (!one || !other || one === other) return;
    for (const id of other) group.set(id, one.add(id));
  };
  for (const n of nodes) {
    for (const l of n.links) join(n.id, l.to);
    for (const key of Object.values(n.keys ?? {})) join(n.id, key);
  }
  return [...new Set(group.values())].map((ids) => nodes.filter((n) => ids.has(n.id)));
}

function cut(plan: Plan, ids: ReadonlySet<string>, tail: ReadonlySet<string>, first: boolean): PlanPart {
  const meets = (n: PlanNode) => n.links.some((l) => tail.has(l.to));
  const nodes = plan.nodes.flatMap((n): PlanNode[] => {
    if (ids.has(n.id)) return [first ? n : { ...n, links: n.links.filter((l) => ids.has(l.to)) }];
    if (!first || !meets(n)) return [];
    // Made elsewhere, chain and gain included: only its links run here.
    const { keys: _keys, hold: _hold, trim: _trim, lanes: _lanes, ...rest } = n;
    return [{ ...rest, kind: 'track', chain: [], gain: 1, links: n.links.filter((l) => ids.has(l.to)) }];
  });
  return {
    plan: { ...plan, nodes },
    takes: first ? nodes.filter((n) => !ids.has(n.id)).map((n) => n.id) : [],
    gives: first ? [] : plan.nodes.filter((n) => ids.has(n.id) && meets(n)).map((n) => n.id),
  };
}
