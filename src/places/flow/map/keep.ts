import same from 'fast-deep-equal';

/** Objects of the list before where nothing changed, and that list itself where none did: only what changed is drawn anew. */
export function keepSame<T extends { id: string }>(before: readonly T[], now: readonly T[]): T[] {
  const known = new Map(before.map((x) => [x.id, x]));
  const kept = now.map((x) => {
    const old = known.get(x.id);
    return old && same(old, x) ? old : x;
  });
  return kept.length === before.length && kept.every((x, i) => x === before[i]) ? (before as T[]) : kept;
}
