import { MONITOR, type SessionDoc, type Stage } from './document';

type Owner = { id: string; destination: string | null; chain: Stage[] };

const owners = (doc: SessionDoc): Owner[] => [...doc.tracks, ...doc.buses];

/** Tracks and buses that a chain's stages listen to. */
export const keysOf = (chain: readonly Stage[]): string[] => chain.flatMap((s) => (s.key ? [s.key] : []));

/** Whether the sound of `key` depends on `owner`, by destinations or by keys: listening to it would be a circle. */
export function keyWouldLoop(doc: SessionDoc, owner: string, key: string): boolean {
  const all = owners(doc);
  const seen = new Set<string>();
  const reached = [owner];
  while (reached.length > 0) {
    const id = reached.pop()!;
    if (id === key) return true;
    if (seen.has(id)) continue;
    seen.add(id);
    const destination = all.find((o) => o.id === id)?.destination;
    if (destination && destination !== MONITOR) reached.push(destination);
    for (const o of all) if (keysOf(o.chain).includes(id)) reached.push(o.id);
  }
  return false;
}
