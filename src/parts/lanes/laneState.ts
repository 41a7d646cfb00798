import { create } from 'zustand';
import type { LaneShape, LanePoint } from '@/core/lanes';
import { laneKey, type LaneTarget, type SessionDoc } from '@/core/session';

interface LaneState {
  /** Tracks and buses whose lanes are shown. */
  open: ReadonlySet<string>;
  /** Lanes that are shown though they have no point yet. */
  fresh: readonly LaneTarget[];
  /** How new points go on. */
  shape: LaneShape;
  /** Points that were copied, and what they are of. */
  copied: { param: string; points: readonly LanePoint[] } | null;
  /** Whether points go along with clips that are moved. */
  withClips: boolean;
}

/** Which lanes are shown on the Floor, and how they are drawn. */
export const useLanes = create<LaneState>(() => ({
  open: new Set(),
  fresh: [],
  shape: 'line',
  copied: null,
  withClips: true,
}));

/** Shows the lanes of a track or bus, or hides them. Without any, that of its level is begun. */
export function toggleLanes(doc: SessionDoc, owner: string): void {
  const { open } = useLanes.getState();
  if (open.has(owner)) {
    useLanes.setState({ open: new Set([...open].filter((id) => id !== owner)) });
    return;
  }
  useLanes.setState({ open: new Set([...open, owner]) });
  if (!Object.values(doc.lanes).some((l) => l.target.node === owner)) showLane({ node: owner, param: 'level' });
}

/** Shows one lane, with points or without. */
export const showLane = (target: LaneTarget): void =>
  useLanes.setState(({ open, fresh }) => ({
    open: new Set([...open, target.node]),
    fresh: [...fresh.filter((t) => laneKey(t) !== laneKey(target)), target],
  }));

/** A lane that has no points is shown no more. */
export const hideLane = (target: LaneTarget): void =>
  useLanes.setState(({ fresh }) => ({ fresh: fresh.filter((t) => laneKey(t) !== laneKey(target)) }));

/** The lanes that are shown of a track or bus, those with points first. */
export function lanesShown(
  doc: SessionDoc,
  { open, fresh }: Pick<LaneState, 'open' | 'fresh'>,
  owner: string,
): LaneTarget[] {
  if (!open.has(owner)) return [];
  const own = Object.values(doc.lanes)
    .map((l) => l.target)
    .filter((t) => t.node === owner);
  const known = new Set(own.map(laneKey));
  return [...own, ...fresh.filter((t) => t.node === owner && !known.has(laneKey(t)))];
}
