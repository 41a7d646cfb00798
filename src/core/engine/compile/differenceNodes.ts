import { referencesOf } from '@/core/session';
import { widthOf } from '@/core/speakers';
import { differenceNode, type PlanLink, type PlanNode } from '../plan';
import type { Compiling } from './context';
import { gainsOf } from './linkGains';

/**
 * For each reference a node in which its stems are added as they would stand in their files and the reference is taken
 * off: what is left is by how much they differ. It leads nowhere and is looked at only. Links are added to the nodes that
 * feed it.
 */
export function differenceNodes(ctx: Compiling, sound: readonly PlanNode[]): PlanNode[] {
  return referencesOf(ctx.doc).flatMap((reference): PlanNode[] => {
    const own = sound.find((n) => n.id === reference.id);
    if (!own) return [];
    const id = differenceNode(reference.id);
    const width = widthOf(reference.layout);
    const stems = ctx.doc.buses.filter((b) => b.kind === 'stem' && !reference.leftOut.includes(b.id));
    for (const stem of stems) {
      const way = ctx.links.from(stem.id).find((l) => l.kind === 'out' && l.to === reference.id);
      // Its file is made of what a linked limiter gives, where there is one.
      const printed = sound.find((n) => n.prints === stem.id) ?? sound.find((n) => n.id === stem.id);
      if (!way || !printed || ctx.closing.has(way.id)) continue;
      const link: PlanLink = { id: `${id}/${stem.id}`, to: id, tap: 'after', ...gainsOf(ctx, way, stem), delay: 0 };
      printed.links.push(link);
    }
    own.links.push({
      id: `${id}/${reference.id}`,
      to: id,
      tap: 'after',
      gains: Array.from({ length: width }, (_, c): [number, number, number] => [c, c, -1]),
      delay: 0,
    });
    return [{ id, kind: 'difference', channels: width, chain: [], gain: 1, links: [], lead: 0 }];
  });
}
