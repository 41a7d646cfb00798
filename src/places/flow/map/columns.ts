import { linksOf, orderOf, sounds } from '@/core/paths';
import type { Bus, SessionDoc } from '@/core/session';

/** Which column each box stands in; sources are in column 0. */
export interface Columns {
  of: ReadonlyMap<string, number>;
  stems: number;
  references: number;
  /** Monitor and printed files. */
  ends: number;
}

/**
 * Columns from left to right: sources; groups and returns, each behind all that feeds it; stems; what stems feed before a
 * reference; references; ends. What closes a circle does not count.
 */
export function columnsOf(doc: SessionDoc): Columns {
  const links = linksOf(doc);
  const { nodes, closing } = orderOf(doc);
  const buses = new Map(doc.buses.map((b) => [b.id, b]));
  const between = (b: Bus | undefined): b is Bus => b?.kind === 'bus' || b?.kind === 'return';
  const of = new Map<string, number>(doc.tracks.map((t) => [t.id, 0]));
  const feeders = (id: string) => links.to(id).filter((l) => sounds(l) && !closing.has(l.id));
  const behindStems = new Set<string>();
  for (const { id } of nodes) {
    const bus = buses.get(id);
    if (!between(bus)) continue;
    const fed = feeders(id);
    if (fed.some((l) => behindStems.has(l.from) || buses.get(l.from)?.kind === 'stem')) behindStems.add(id);
    else of.set(id, 1 + Math.max(0, ...fed.map((l) => of.get(l.from) ?? 0)));
  }
  const stems = 1 + Math.max(0, ...of.values());
  for (const b of doc.buses) if (b.kind === 'stem') of.set(b.id, stems);
  for (const { id } of nodes)
    if (behindStems.has(id)) of.set(id, 1 + Math.max(stems, ...feeders(id).map((l) => of.get(l.from) ?? 0)));
  const references = 1 + Math.max(stems, ...of.values());
  for (const b of doc.buses) if (b.kind === 'reference') of.set(b.id, references);
  return { of, stems, references, ends: references + 1 };
}
