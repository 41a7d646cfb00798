import { useState } from 'react';
import { rowKey, type Row } from './rows';

/** Keeps the value of before where `same` says that nothing of it that matters has changed. */
export function useSame<T>(value: T, same: (a: T, b: T) => boolean): T {
  const [kept, keep] = useState(value);
  if (kept === value || same(kept, value)) return kept;
  keep(value);
  return value;
}

/** Whether two lists of rows look alike: a level that is dragged moves no clip. */
export const sameRows = (a: readonly Row[], b: readonly Row[]): boolean =>
  a.length === b.length &&
  a.every((row, i) => {
    const other = b[i]!;
    const [t, u] = [row.track, other.track];
    if (row.kind === 'lane' || !t || !u)
      return row.kind === other.kind && rowKey(row) === rowKey(other) && row.top === other.top;
    return (
      row === other ||
      (row.kind === other.kind &&
        row.top === other.top &&
        row.take === other.take &&
        row.running === other.running &&
        t.id === u.id &&
        t.clips === u.clips &&
        t.takes === u.takes &&
        t.muted === u.muted &&
        t.armed === u.armed)
    );
  });

export const sameMap = <K, V>(a: ReadonlyMap<K, V>, b: ReadonlyMap<K, V>): boolean =>
  a.size === b.size && [...a].every(([key, value]) => b.get(key) === value);

export const sameSet = <T>(a: ReadonlySet<T> | null, b: ReadonlySet<T> | null): boolean =>
  a === b || (a !== null && b !== null && a.size === b.size && [...a].every((x) => b.has(x)));
