import { create } from 'zustand';
import { keepOnDesk } from '@/client';
import type { Lasso } from './hits';
import { NO_FILTER, type CueFilter } from './script/shownCues';

interface FloorState {
  /** Tracks whose takes are shown. */
  open: ReadonlySet<string>;
  /** Of these, tracks that show all their takes. */
  all: ReadonlySet<string>;
  /** Tracks whose takes were folded by hand: a recording does not open them again. */
  shut: ReadonlySet<string>;
  /** What stands below the picture; null: the script where there is one, else the takes. */
  side: 'script' | 'takes' | 'clip' | 'media' | null;
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
  all: new Set(),
  shut: new Set(),
  side: null,
  drawn: null,
  lasso: null,
  cues: NO_FILTER,
  noting: null,
}));

export const showSide = (side: NonNullable<FloorState['side']>): void => useFloor.setState({ side });

export function toggleOpen(track: string): void {
  useFloor.setState(({ open, shut }) => {
    const [now, kept] = [new Set(open), new Set(shut)];
    if (now.delete(track)) kept.add(track);
    else {
      now.add(track);
      kept.delete(track);
    }
    return { open: now, shut: kept };
  });
}

/** Shows all takes of a track, or folds the older ones. */
export function toggleAllTakes(track: string): void {
  useFloor.setState(({ all }) => {
    const next = new Set(all);
    if (!next.delete(track)) next.add(track);
    return { all: next };
  });
}

/** Shows the takes of tracks, but not where they were folded by hand. */
export const openTracks = (tracks: readonly string[]): void =>
  useFloor.setState(({ open, shut }) => ({ open: new Set([...open, ...tracks.filter((t) => !shut.has(t))]) }));

const SIDES = ['script', 'takes', 'clip', 'media'] as const;
const ids = (kept: unknown): Set<string> =>
  new Set(Array.isArray(kept) ? kept.filter((id): id is string => typeof id === 'string') : []);

/** Which takes are shown or folded, and what stands below the picture. */
keepOnDesk('floor', () => ({
  save() {
    const { open, all, shut, side } = useFloor.getState();
    return { open: [...open], all: [...all], shut: [...shut], side };
  },
  restore(kept) {
    const { open, all, shut, side } = (kept ?? {}) as Record<string, unknown>;
    useFloor.setState({
      ...{ open: ids(open), all: ids(all), shut: ids(shut), drawn: null, lasso: null, noting: null, cues: NO_FILTER },
      side: SIDES.find((s) => s === side) ?? null,
    });
  },
  subscribe: (changed) => useFloor.subscribe(changed),
}));
