import { LAYOUTS, type Layout, type LayoutId } from './layouts';
import { ownLayoutOf } from './ownLayouts';

const standard = new Map<string, Layout>(LAYOUTS.map((l) => [l.id, l]));

/** The layout of an id; undefined where there is none. */
export const layoutWith = (id: string): Layout | undefined => standard.get(id) ?? ownLayoutOf(id) ?? undefined;

/** Throws RangeError for an unknown id. */
export function layoutOf(id: LayoutId): Layout {
  const found = layoutWith(id);
  if (!found) throw new RangeError(`unknown speaker layout "${id}"`);
  return found;
}

export const isLayout = (id: unknown): id is LayoutId => typeof id === 'string' && layoutWith(id) !== undefined;

export const widthOf = (id: LayoutId): number => layoutOf(id).speakers.length;
