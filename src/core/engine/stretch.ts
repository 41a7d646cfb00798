import { rolledTo } from '@/core/session';

/** A stretch in which everything goes round once it has come to its end. Samples of the timeline. */
export interface Loop {
  start: number;
  end: number;
}

/** Where a block, or a part of it, lies on the timeline. */
export interface Stretch {
  /** Frames of the block before it. */
  from: number;
  n: number;
  /** Sample of the timeline of its first frame. */
  at: number;
}

/** The parts of a block of `n` frames from `at` on (counted without going round), each in one piece on the timeline. */
export function stretchesOf(at: number, n: number, loop: Loop | null): Stretch[] {
  if (!loop || at + n <= loop.end) return [{ from: 0, n, at }];
  const found: Stretch[] = [];
  for (let from = 0; from < n;) {
    const place = rolledTo(at, from, loop);
    const most = at + from < loop.end ? loop.end - at - from : loop.end - place;
    const part = Math.min(n - from, most);
    found.push({ from, n: part, at: place });
    from += part;
  }
  return found;
}

/** Moments of a block as nodes see them: when it is, and whether time stands. */
export interface Now {
  /** Sample of the timeline of the block's first frame, counted on without going round. */
  at: number;
  loop: Loop | null;
  /** Nothing rolls: every frame of the block is at `at`. */
  still: boolean;
}

/** Where sound that is late by `late` samples lies. */
export const stretchesLate = ({ at, loop, still }: Now, n: number, late: number): Stretch[] =>
  still ? [{ from: 0, n, at }] : stretchesOf(at - late, n, loop);

/** Where nothing follows the timeline. */
export const BEGINNING: Now = { at: 0, loop: null, still: true };
