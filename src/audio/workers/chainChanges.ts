import type { ChainChange } from '@/core/session';

/** Changes that follow each other within a dragging hand (frames, a quarter second at 48 kHz) count as one. */
const ONE_HAND = 12_000;

/** The chain's record with one more change: a drag is one, where it began, with what it ended at. */
export function withChange(before: readonly ChainChange[] = [], { at, chains }: ChainChange): ChainChange[] {
  const last = before.at(-1);
  return last && at - last.at < ONE_HAND
    ? [...before.slice(0, -1), { at: last.at, chains }]
    : [...before, { at, chains }];
}
