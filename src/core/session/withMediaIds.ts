import type { Clip, SessionDoc } from './document';

/** The session with its files under other ids; one that has none keeps its own. */
export function withMediaIds(doc: SessionDoc, ids: ReadonlyMap<string, string>): SessionDoc {
  if (ids.size === 0) return doc;
  const of = (id: string): string => ids.get(id) ?? id;
  const clips = (list: readonly Clip[]): Clip[] => list.map((c) => ({ ...c, media: of(c.media) }));
  const thawedTo = <T extends { frozen?: { media: string } }>(node: T): T =>
    node.frozen ? { ...node, frozen: { ...node.frozen, media: of(node.frozen.media) } } : node;
  return {
    ...doc,
    media: Object.fromEntries(Object.values(doc.media).map((m) => [of(m.id), { ...m, id: of(m.id) }])),
    tracks: doc.tracks.map((t) => ({
      ...thawedTo(t),
      clips: clips(t.clips),
      ...(t.otherComps ? { otherComps: t.otherComps.map((c) => ({ ...c, clips: clips(c.clips) })) } : {}),
      takes: t.takes.map((k) => ({ ...k, media: of(k.media), dryMedia: k.dryMedia === null ? null : of(k.dryMedia) })),
    })),
    buses: doc.buses.map(thawedTo),
    shelf: doc.shelf.map((s) => ({ ...s, media: of(s.media) })),
  };
}
