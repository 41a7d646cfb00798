import type { RunningTake } from '@/client';
import { CLICK, laneKey, type LaneTarget, type SessionDoc, type Take, type Track } from '@/core/session';

export const ROW = 46;
export const TAKE_ROW = 30;
export const LANE_ROW = 58;

interface Place {
  top: number;
  height: number;
}

/** A track, or one of its takes below it. */
export interface SoundRow extends Place {
  kind: 'track' | 'take' | 'running';
  track: Track;
  take?: Take;
  running?: RunningTake;
}

/** A value that follows the timeline, below its track; those of buses stand below all tracks. */
export interface LaneRow extends Place {
  kind: 'lane';
  target: LaneTarget;
  track?: undefined;
  take?: undefined;
  running?: undefined;
}

/** A row of the timeline. */
export type Row = SoundRow | LaneRow;

/** Which lanes are shown of a track or bus. */
export type LanesOf = (owner: string) => readonly LaneTarget[];

/** All rows from top to bottom; takes stand under their track while it is open, the newest first, lanes under them. */
export function rowsOf(
  doc: SessionDoc,
  open: ReadonlySet<string>,
  running: readonly RunningTake[],
  lanesOf: LanesOf = () => [],
): Row[] {
  const rows: Row[] = [];
  let top = 0;
  const add = (row: Omit<SoundRow, 'top'> | Omit<LaneRow, 'top'>) => {
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
      for (let i = track.takes.length - 1; i >= 0; i--)
        add({ kind: 'take', track, take: track.takes[i]!, height: TAKE_ROW });
    }
    addLanes(track.id);
  }
  for (const bus of doc.buses) addLanes(bus.id);
  addLanes(CLICK);
  return rows;
}

/** What tells a row from all others. */
export const rowKey = (row: Row): string =>
  row.kind === 'lane'
    ? `lane ${laneKey(row.target)}`
    : `${row.kind}-${row.take?.id ?? row.running?.id ?? row.track.id}`;

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
