import type { SessionDoc, Stage } from '@/core/session';

const passed = (chain: readonly Stage[]): Stage[] => chain.map((s) => ({ ...s, on: false }));

/**
 * The session as it is printed. With a tail nothing plays from what it was frozen to, since a file that ends with the range holds
 * no sound that could ring on; without chains neither, as they are in it.
 */
export function printedDoc(doc: SessionDoc): SessionDoc {
  const without = doc.printing?.withoutChains === true;
  if (!doc.settings.tail && !without) return doc;
  const as = <T extends { frozen?: unknown; chain: Stage[] }>({ frozen: _, ...node }: T) => ({
    ...node,
    chain: without ? passed(node.chain) : node.chain,
  });
  return {
    ...doc,
    tracks: doc.tracks.map(as),
    buses: doc.buses.map((b) => ({ ...as(b), linked: without ? null : b.linked })),
    deliverables: without ? doc.deliverables.map(({ ceiling: _, ...d }) => d) : doc.deliverables,
  };
}
