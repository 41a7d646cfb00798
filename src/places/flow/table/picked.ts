import { create } from 'zustand';

interface Picked {
  ids: ReadonlySet<string>;
  /** Where a range begins. */
  anchor: string | null;
}

/** Rows of the table that actions go to. */
export const usePicked = create<Picked>(() => ({ ids: new Set(), anchor: null }));

export const pickRows = (ids: Iterable<string>): void => usePicked.setState({ ids: new Set(ids), anchor: null });

/**
 * A click on a row: alone; with Ctrl or Cmd it is added or let go; with Shift all from where the last one was, in the
 * order that is shown.
 */
export function pickRow(id: string, how: { add: boolean; range: boolean }, shown: readonly string[]): void {
  const { ids, anchor } = usePicked.getState();
  if (how.range && anchor !== null && shown.includes(anchor)) {
    const [a, b] = [shown.indexOf(anchor), shown.indexOf(id)].sort((x, y) => x - y) as [number, number];
    usePicked.setState({ ids: new Set([...(how.add ? ids : []), ...shown.slice(a, b + 1)]), anchor });
    return;
  }
  if (!how.add) {
    usePicked.setState({ ids: ids.size === 1 && ids.has(id) ? new Set() : new Set([id]), anchor: id });
    return;
  }
  const next = new Set(ids);
  if (!next.delete(id)) next.add(id);
  usePicked.setState({ ids: next, anchor: id });
}
