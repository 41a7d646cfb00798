import { useEffect, useMemo } from 'react';
import { create } from 'zustand';
import { isLayout, layoutOf, LAYOUTS, type Layout, type LayoutId, type SpeakerSpot } from '@/core/speakers';
import { ask } from './http';
import { useSession } from './session';

/** Layouts of one's own that are kept; null while they are not known. */
const useKept = create<{ list: LayoutId[] | null }>(() => ({ list: null }));

async function load(): Promise<void> {
  const { layouts } = await ask<{ layouts: LayoutId[] }>('/api/layouts');
  useKept.setState({ list: layouts.filter(isLayout) });
}

// Asked for once, however many lists of a page want to know.
let asked: Promise<void> | null = null;
const loadOnce = (): Promise<void> =>
  (asked ??= load().finally(() => {
    asked = null;
  }));

/** Layouts that can be chosen: those of the list, own ones that are kept, and that of the mix. */
export function useLayouts(): Layout[] {
  const list = useKept((s) => s.list);
  const mix = useSession((s) => s.doc?.format.layout);
  useEffect(() => {
    // Without the server those of the list are there.
    if (list === null) loadOnce().catch(() => {});
  }, [list]);
  return useMemo(() => {
    const all = [...LAYOUTS, ...[...(list ?? []), ...(mix ? [mix] : [])].map(layoutOf)];
    return all.filter((l, i) => all.findIndex((o) => o.id === l.id) === i);
  }, [list, mix]);
}

/** Keeps a layout of one's own. Throws with a sentence. */
export async function keepLayout(name: string, speakers: readonly SpeakerSpot[]): Promise<LayoutId> {
  const { id } = await ask<{ id: LayoutId }>('/api/layouts', { name, speakers });
  await load();
  return id;
}

/** Takes one away from those that are kept; sessions that use it have it in themselves. */
export async function removeLayout(name: string): Promise<void> {
  await ask(`/api/layouts/${encodeURIComponent(name)}`, undefined, 'DELETE');
  await load();
}
