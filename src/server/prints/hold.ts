// Which process makes a print: it says so again and again, and what is not said any more is taken over.
import { and, eq } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { db, tables } from '../database';
import { log } from '../log';
import { shared } from '../shared';

/** A process says so often that it makes a print (ms). */
const BEAT = 3_000;
/** Whoever has not said so for so long is dead (ms). */
const DEAD_AFTER = 20_000;
/** Others look for what the dead have left so often (ms). */
export const LOOK_FOR_DEAD = 5_000;

/** Name of this process among those that print. */
export const me = (): string => shared('print-worker', () => nanoid(10));

export const isDead = ({ seenAt }: { seenAt: Date | null }): boolean =>
  seenAt === null || seenAt.getTime() < Date.now() - DEAD_AFTER;

/** Says that this process makes a print, until it is cleared; `lost`: another one does by now. */
export function keepHold(id: string, lost: () => void): ReturnType<typeof setInterval> {
  const p = tables.prints;
  const timer = setInterval(() => {
    void (async () => {
      const held = await (
        await db()
      )
        .update(p)
        .set({ seenAt: new Date() })
        .where(and(eq(p.id, id), eq(p.worker, me()), eq(p.state, 'running')))
        .returning({ id: p.id });
      if (held.length === 0) lost();
    })().catch((error: unknown) => log.warn(error, 'a print could not be held'));
  }, BEAT);
  timer.unref();
  return timer;
}
