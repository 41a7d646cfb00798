import { create } from 'zustand';
import type { Lasso } from './hits';
import { NO_FILTER, type CueFilter } from './script/shownCues';

interface FloorState {
  /** Tracks whose takes are shown. */
  open: ReadonlySet<string>;
  /** What stands below the picture. */
  side: 'script' | 'takes' | 'clip' | 'media';
  /** Range of a take that is being drawn into the comp. */
  drawn: { take: string; start: number; end: number } | null;
  /** Drawn around clips to choose them. */
  lasso: Lasso | null;
  /** Which cues of the script are shown. */
  cues: CueFilter;
  /** The take that a note is being written on. */
  noting: { track: string; take: string } | null;
}

export const useFloor = create<FloorState>(() => ({
  open: new Set(),
  side: 'takes',
  drawn: null,
  lasso: null,
  cues: NO_FILTER,
  noting: null,
}));

export const showSide = (side: FloorState['side']): void => useFloor.setState({ side });

export function toggleOpen(track: string): void {
  useFloor.setState(({ open }) => {
    const next = new Set(open);
    if (!next.delete(track)) next.add(track);
    return { open: next };
  });
}

export const openTracks = (tracks: readonly string[]): void =>
  useFloor.setState(({ open }) => ({ open: new Set([...open, ...tracks]) }));
