import { foldOf, newStage, type Stage } from '@/core/session';
import { foldDown, layoutOf, widthOf } from '@/core/speakers';
import { foldNode, pairsOf, printNode, through, type PairGain, type PlanNode } from '../plan';
import type { Compiling } from './context';
import { encoderOf } from './encodings';
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
    const fold = foldOf(doc, d.fold);
    const chain = bus.layout !== d.layout && d.ceiling !== undefined ? [foldLimiter(id, d.ceiling)] : [];
    const node: PlanNode = { id, kind: 'fold', channels: widthOf(d.layout), chain, gain: 1, links: [], lead: 0 };
    const lead = (to: string, gains: PairGain[]) => {
      for (const s of sources) s.links.push({ id: `${to}/${s.id}`, to, tap: 'after', gains, delay: 0 });
    };
    if (d.encode) {
      const encoder = encoderOf(id, bus.layout, d.encode, fold);
      const inner = `${id}/encode`;
      lead(inner, pairsOf(encoder.gains));
      const links = [{ id: `${inner}/out`, to: id, tap: 'after' as const, gains: through(2), delay: 0 }];
      const channels = encoder.layout.speakers.length;
      return [{ id: inner, kind: 'fold', channels, chain: encoder.chain, gain: 1, links, lead: 0 }, node];
    }
    lead(
      id,
      bus.layout === d.layout
        ? through(widthOf(bus.layout))
        : pairsOf(foldDown(layoutOf(bus.layout), layoutOf(d.layout), fold)),
    );
    return [node];
  });
}
