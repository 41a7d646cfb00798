import { locate, playStretch, stop, useSession } from '@/client';

/** What sounds of the place under the pointer, round and round while it rests there (s). */
const HEARD = 0.14;
/** A new piece begins so often at most (ms): each must be heard. */
const EVERY = 110;

let last = 0;

/** Lets the place under the pointer be heard. */
export function scrubTo(sample: number): void {
  const now = performance.now();
  const rate = useSession.getState().doc?.format.sampleRate ?? 48_000;
  if (now - last < EVERY) return;
  last = now;
  const start = Math.max(0, Math.round(sample));
  void playStretch({ start, end: start + Math.round(HEARD * rate) }, true);
}

/** The pointer is let go: silence, and the playhead stands there. */
export function scrubEnd(sample: number): void {
  last = 0;
  stop();
  locate(sample);
}
