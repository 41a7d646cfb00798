import { linksOf, openLinks, sounds } from '@/core/paths';
import { feeding, freshOf, hearingOf, type FrozenNodes, type SessionDoc, type Track } from '@/core/session';

const hears = (t: Track): boolean => t.armed || (hearingOf(t) === 'always' && t.inputs.some((l) => l !== null));

/**
 * Tracks and buses that play what they were frozen to while somebody listens. What comes in on a track goes through its
 * chain and through all behind it, and so does a take that is listened to (`apart`: its track); and a bus of which solo
 * lets only a part be heard has no file of that part.
 */
export function frozenHeard(doc: SessionDoc, apart: string | null): FrozenNodes {
  const fresh = freshOf(doc);
  if (fresh.size === 0) return fresh;
  const live = new Set(doc.tracks.filter((t) => hears(t) || t.id === apart).map((t) => t.id));
  const open = openLinks(doc);
  const links = linksOf(doc);
  const whole = (bus: string): boolean => {
    const behind = new Set(feeding(doc, bus).map((n) => n.id));
    if ([...behind].some((id) => live.has(id))) return false;
    const ways = open ? links.all.filter((l) => sounds(l) && behind.has(l.to)) : [];
    return ways.every((l) => open!.has(l.id)) || ways.every((l) => !open!.has(l.id));
  };
  const buses = new Set(doc.buses.map((b) => b.id));
  return new Map([...fresh].filter(([id]) => (buses.has(id) ? whole(id) : !live.has(id))));
}
