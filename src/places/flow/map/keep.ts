import same from 'fast-deep-equal';

/** Objects of the list before where nothing changed, so that only what did is drawn anew. */
export function keepSame<T extends { id: string }>(before: readonly T[], now: readonly T[]): T[] {
  const known = new Map(before.map((x) => [x.id, x]));
  return now.map((x) => {
    const old = known.get(x.id);
    return old && same(old, x) ? old : x;
  });
}
