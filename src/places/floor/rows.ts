import type { RunningTake } from '@/client';
import { CLICK, laneKey, type LaneTarget, type SessionDoc, type Take, type Track } from '@/core/session';

export const ROW = 46;
export const TAKE_ROW = 30;
export const LANE_ROW = 58;

interface Place {
  top: number;
  height: number;
}

export interface TrackRow extends Place {
  kind: 'track';
  track: Track;
}

/** Takes of a track that do not meet in time: they share a row. */
export interface TakesRow extends Place {
  kind: 'takes';
  track: Track;
  /** In time. */
  takes: readonly Take[];
}

export interface RunningRow extends Place {
  kind: 'running';
  track: Track;
  running: RunningTake;
}

/** Stands for older takes that are folded. */
export interface MoreRow extends Place {
  kind: 'more';
  track: Track;
  /** How many takes are not shown; 0: all are, and can be folded again. */
  hidden: number;
}

/** A track, or what stands below it. */
export type SoundRow = TrackRow | TakesRow | RunningRow | MoreRow;

/** A value that follows the timeline, below its track; those of buses stand below all tracks. */
export interface LaneRow extends Place {
  kind: 'lane';
  target: LaneTarget;
  track?: undefined;
}

/** A row of the timeline. */
export type Row = SoundRow | LaneRow;

/** Which lanes are shown of a track or bus. */
export type LanesOf = (owner: string) => readonly LaneTarget[];

/** Rows of takes that a track shows before the older ones are folded. */
export const MOST_TAKE_ROWS = 5;

/** Packs takes into rows, the newest in the uppermost row where it meets no other. */
export function packed(takes: readonly Take[]): Take[][] {
  const rows: Take[][] = [];
  for (let i = takes.length - 1; i >= 0; i--) {
    const take = takes[i]!;
    const meets = (other: Take) => other.start < take.start + take.length && take.start < other.start + other.length;
    const free = rows.find((row) => !row.some(meets));
    if (free) free.push(take);
    else rows.push([take]);
  }
  return rows.map((row) => row.sort((a, b) => a.start - b.start));
}

/** What of the rows is open: tracks that show takes, and those of them that show all. */
export interface Opened {
  open: ReadonlySet<string>;
  all: ReadonlySet<string>;
}

/** All rows from top to bottom; takes stand under their track while it is open, the newest first, lanes under them. */
export function rowsOf(
  doc: SessionDoc,
  { open, all }: Opened,
  running: readonly RunningTake[],
  lanesOf: LanesOf = () => [],
): Row[] {
  const rows: Row[] = [];
  let top = 0;
  const add = (row: Untopped) => {
    rows.push({ ...row, top });
    top += row.height;
  };
  const addLanes = (owner: string) => {
    for (const target of lanesOf(owner)) add({ kind: 'lane', target, height: LANE_ROW });
  };
  for (const track of doc.tracks) {
    add({ kind: 'track', track, height: ROW });
    if (open.has(track.id)) {
      // Rounds of a loop that are yet to come are not shown.
      for (const r of running)
        if (r.track === track.id && r.frames > 0) add({ kind: 'running', track, running: r, height: TAKE_ROW });
      const packs = packed(track.takes);
      const shown = all.has(track.id) ? packs : packs.slice(0, MOST_TAKE_ROWS);
      for (const takes of shown) add({ kind: 'takes', track, takes, height: TAKE_ROW });
      if (packs.length > MOST_TAKE_ROWS) {
        const hidden = track.takes.length - shown.reduce((n, takes) => n + takes.length, 0);
        add({ kind: 'more', track, hidden, height: TAKE_ROW });
      }
    }
    addLanes(track.id);
  }
  for (const bus of doc.buses) addLanes(bus.id);
  addLanes(CLICK);
  return rows;
}

type Without<R> = R extends Row ? Omit<R, 'top'> : never;
type Untopped = Without<Row>;

/** What tells a row from all others. */
export function rowKey(row: Row): string {
  if (row.kind === 'lane') return `lane ${laneKey(row.target)}`;
  if (row.kind === 'takes') return `takes-${row.takes[0]!.id}`;
  return `${row.kind}-${row.kind === 'running' ? row.running.id : row.track.id}`;
}

/** The take that a row's ends are about: the chosen one, the one at `at` (samples), or the next to it. */
export function takeShown({ takes }: Pick<TakesRow, 'takes'>, chosen: string | null, at: number): Take {
  const away = (t: Take) => Math.max(t.start - at, at - (t.start + t.length), 0);
  return takes.find((t) => t.id === chosen) ?? takes.reduce((best, t) => (away(t) < away(best) ? t : best));
}

export const heightOf = (rows: readonly Row[]): number => {
  const last = rows.at(-1);
  return last ? last.top + last.height : 0;
};

/** The row at a height; undefined below the last. */
export function rowAt(rows: readonly Row[], y: number): Row | undefined {
  let [low, high] = [0, rows.length - 1];
  while (low <= high) {
    const middle = (low + high) >> 1;
    const row = rows[middle]!;
    if (y < row.top) high = middle - 1;
    else if (y >= row.top + row.height) low = middle + 1;
    else return row;
  }
  return undefined;
}

/** The rows that touch [from, to), so that hundreds of takes cost no more than a screenful. */
export function rowsIn(rows: readonly Row[], from: number, to: number): Row[] {
  const first = rowAt(rows, Math.max(0, from));
  if (!first) return [];
  const found: Row[] = [];
  for (let i = rows.indexOf(first); i < rows.length && rows[i]!.top < to; i++) found.push(rows[i]!);
  return found;
}
