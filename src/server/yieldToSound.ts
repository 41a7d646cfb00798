import os from 'node:os';

/** How far work that nobody waits for at once stands back (POSIX nice: 0 is as all, 19 the farthest). */
const BACK = 10;

/**
 * Lets the thread that calls it stand back behind the ones that play and record. On Linux a priority is that of a thread
 * (setpriority(2), "C library/kernel differences"); elsewhere it would be the whole server's, and is left alone.
 */
export function yieldToSound(): void {
  if (process.platform === 'linux') os.setPriority(BACK);
}
