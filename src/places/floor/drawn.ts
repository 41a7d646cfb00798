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
    if (row === other) return true;
    if (row.kind !== other.kind || row.top !== other.top) return false;
    if (row.kind === 'lane' || other.kind === 'lane') return rowKey(row) === rowKey(other);
    if (row.kind === 'running' && other.kind === 'running' && row.running !== other.running) return false;
    if (row.kind === 'more' && other.kind === 'more' && row.hidden !== other.hidden) return false;
    if (row.kind === 'takes' && other.kind === 'takes' && !sameList(row.takes, other.takes)) return false;
    const [t, u] = [row.track, other.track];
    return t.id === u.id && t.clips === u.clips && t.takes === u.takes && t.muted === u.muted && t.armed === u.armed;
  });

const sameList = <T>(a: readonly T[], b: readonly T[]): boolean =>
  a.length === b.length && a.every((x, i) => x === b[i]);

export const sameMap = <K, V>(a: ReadonlyMap<K, V>, b: ReadonlyMap<K, V>): boolean =>
  a.size === b.size && [...a].every(([key, value]) => b.get(key) === value);

export const sameSet = <T>(a: ReadonlySet<T> | null, b: ReadonlySet<T> | null): boolean =>
  a === b || (a !== null && b !== null && a.size === b.size && [...a].every((x) => b.has(x)));
