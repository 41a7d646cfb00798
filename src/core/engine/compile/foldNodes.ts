import { newStage, type Stage } from '@/core/session';
import { foldDown, layoutOf, widthOf } from '@/core/speakers';
import { foldNode, pairsOf, printNode, through, type PlanNode } from '../plan';
import type { Compiling } from './context';
import { nodesOf } from './soundNodes';

// A fold-down goes over where its mix does not: it may be limited for itself, by true peaks.
const foldLimiter = (fold: string, ceiling: number): Stage => {
  const stage = newStage(`${fold}/limiter`, 'limiter', true);
  return { ...stage, values: { ...stage.values, ceiling, limits: 1 } };
};

/** Nodes of printed files that no node has as it is: fold-downs, and returns that are kept apart, put together. */
export function foldNodes(ctx: Compiling, nodes: readonly PlanNode[]): PlanNode[] {
  const { doc } = ctx;
  const plan = { sampleRate: doc.format.sampleRate, nodes: [...nodes] };
  return doc.deliverables.flatMap((d): PlanNode[] => {
    const bus = doc.buses.find((b) => b.id === d.bus);
    const sources = bus ? nodesOf(ctx, bus.id).flatMap((id) => printNode(plan, id) ?? []) : [];
    if (!bus || (bus.layout === d.layout && sources.length === 1 && nodesOf(ctx, bus.id)[0] === bus.id)) return [];
    const id = foldNode(d.id);
    const gains =
      bus.layout === d.layout
        ? through(widthOf(bus.layout))
        : pairsOf(foldDown(layoutOf(bus.layout), layoutOf(d.layout)));
    for (const source of sources)
      source.links.push({ id: `${id}/${source.id}`, to: id, tap: 'after', gains, delay: 0 });
    const chain = bus.layout !== d.layout && d.ceiling !== undefined ? [foldLimiter(id, d.ceiling)] : [];
    return [{ id, kind: 'fold', channels: widthOf(d.layout), chain, gain: 1, links: [], lead: 0 }];
  });
}
