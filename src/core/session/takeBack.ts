import same from 'fast-deep-equal';
import type { SessionDoc } from './document';

/** Somebody else has changed the same thing since; `path`: its members, rows by their ids. */
export class ChangedSince extends Error {
  constructor(readonly path: readonly string[]) {
    super(`changed since: ${path.join(' / ')}`);
  }
}

type Json = unknown;
type Row = { id: string };

export const isObject = (x: Json): x is Record<string, Json> =>
  typeof x === 'object' && x !== null && !Array.isArray(x);
export const isRows = (x: Json): x is Row[] =>
  Array.isArray(x) && x.every((r) => isObject(r) && typeof r.id === 'string');

/**
 * The session `now` with one earlier step taken back: what led from `to` to `from` is undone, whatever else was changed
 * since stays. Rows are known by their ids, wherever they stand. Throws ChangedSince where the same thing was changed
 * meanwhile: there is no way to keep both.
 */
export const takeBack = (from: SessionDoc, to: SessionDoc, now: SessionDoc): SessionDoc =>
  merged(from, to, now, []) as SessionDoc;

function merged(from: Json, to: Json, now: Json, path: readonly string[]): Json {
  if (same(from, to)) return now;
  if (same(now, from)) return to;
  if (same(now, to)) return now;
  if (isObject(from) && isObject(to) && isObject(now)) return members(from, to, now, path);
  if (isRows(from) && isRows(to) && isRows(now)) return rows(from, to, now, path);
  throw new ChangedSince(path);
}

function members(
  from: Record<string, Json>,
  to: Record<string, Json>,
  now: Record<string, Json>,
  path: readonly string[],
): Record<string, Json> {
  const next: Record<string, Json> = {};
  for (const key of new Set([...Object.keys(now), ...Object.keys(to)])) {
    const value = merged(from[key], to[key], now[key], [...path, key]);
    if (value !== undefined) next[key] = value;
  }
  return next;
}

function rows(from: Row[], to: Row[], now: Row[], path: readonly string[]): Row[] {
  const by = (list: Row[]) => new Map(list.map((r) => [r.id, r]));
  const [was, back, is] = [by(from), by(to), by(now)];
  const kept = now.flatMap((row): Row[] => {
    const value = merged(was.get(row.id), back.get(row.id), row, [...path, row.id]);
    return value === undefined ? [] : [value as Row];
  });
  for (const row of from)
    if (!is.has(row.id) && back.has(row.id) && !same(row, back.get(row.id))) throw new ChangedSince([...path, row.id]);
  // What the step took away comes back behind the row that stood before it.
  const there = new Set(kept.map((r) => r.id));
  to.forEach((row, i) => {
    if (was.has(row.id) || there.has(row.id)) return;
    const before = to
      .slice(0, i)
      .reverse()
      .find((r) => there.has(r.id));
    kept.splice(before ? kept.findIndex((r) => r.id === before.id) + 1 : 0, 0, row);
    there.add(row.id);
  });
  return inOrder(from, to, kept, path);
}

// A step that put rows in another order is taken back where nobody has ordered them since.
function inOrder(from: Row[], to: Row[], kept: Row[], path: readonly string[]): Row[] {
  const common = new Set(
    to.filter((r) => from.some((x) => x.id === r.id) && kept.some((x) => x.id === r.id)).map((r) => r.id),
  );
  const order = (list: Row[]) => list.filter((r) => common.has(r.id)).map((r) => r.id);
  const [was, back, is] = [order(from), order(to), order(kept)];
  if (same(was, back) || same(is, back)) return kept;
  if (!same(is, was)) throw new ChangedSince(path);
  const byId = new Map(kept.map((r) => [r.id, r]));
  let next = 0;
  return kept.map((r) => (common.has(r.id) ? byId.get(back[next++]!)! : r));
}
