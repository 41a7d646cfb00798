import { and, desc, eq, inArray, isNotNull, lt, max } from 'drizzle-orm';
import type { SessionFacts } from '@/core/session';
import { sessionDir } from '../config';
import { db, tables } from '../database';
import { Refused } from '../http';
import { log } from '../log';
import { removeFolder, sizesIn } from '../objects';
import { shared } from '../shared';
import { headOf } from './head';
import { forgetSteps } from './steps';
import { forget } from './store';

/** A removed session can be brought back for so many days. */
const DAYS = 30;
const DAY = 24 * 3600_000;

const s = tables.sessions;

/** Bytes of all that lies in a folder and below it. */
async function bytesIn(dir: string): Promise<number> {
  return [...(await sizesIn(dir)).values()].reduce((a, b) => a + b, 0);
}

/** Every session of this machine with what one chooses by, the one that was changed last first; those in the bin too. */
export async function sessionDesk(): Promise<SessionFacts[]> {
  const database = await db();
  const rows = await database.select().from(s).orderBy(desc(s.createdAt));
  const e = tables.edits;
  const last = await database
    .select({ session: e.session, at: max(e.at) })
    .from(e)
    .groupBy(e.session);
  const changed = new Map(last.map((r) => [r.session, r.at]));
  const facts = await Promise.all(
    rows.map(async ({ createdAt, removedAt, ...row }): Promise<SessionFacts> => {
      const { id } = row;
      const doc = await headOf(row);
      const { sampleRate, wordLength, frameRate, layout } = doc.format;
      const end = doc.tracks.flatMap((t) => t.clips.map((c) => c.start + c.length)).reduce((a, b) => Math.max(a, b), 0);
      return {
        ...{ id, name: doc.name, code: doc.code, sampleRate, wordLength, frameRate, layout },
        ...{ tracks: doc.tracks.length, seconds: end / sampleRate, bytes: await bytesIn(sessionDir(id)) },
        changedAt: (changed.get(id) ?? createdAt).toISOString(),
        folder: sessionDir(id),
        removedAt: removedAt?.toISOString() ?? null,
        goesAt: removedAt ? new Date(removedAt.getTime() + DAYS * DAY).toISOString() : null,
      };
    }),
  );
  return facts.sort((a, b) => b.changedAt.localeCompare(a.changedAt));
}

async function rowOf(id: string) {
  const [row] = await (await db()).select().from(s).where(eq(s.id, id));
  if (!row) throw new Refused(404, `There is no session "${id}".`);
  return row;
}

/** Puts a session into the bin, for thirty days. Throws Refused while something is recorded or printed in it. */
export async function removeSession(id: string): Promise<void> {
  const row = await rowOf(id);
  const database = await db();
  const r = tables.recordings;
  const [rolling] = await database
    .select({ id: r.id })
    .from(r)
    .where(and(eq(r.session, id), eq(r.state, 'rolling')));
  if (rolling) throw new Refused(409, `${row.doc.name} is being recorded; end that first. It was not removed.`);
  const p = tables.prints;
  const [open] = await database
    .select({ version: p.version })
    .from(p)
    .where(and(eq(p.session, id), inArray(p.state, ['waiting', 'running'])));
  if (open)
    throw new Refused(409, `Print ${open.version} of ${row.doc.name} is in line; cancel it first. It was not removed.`);
  await database.update(s).set({ removedAt: new Date() }).where(eq(s.id, id));
  forget(id);
}

/** Takes a session out of the bin. */
export async function restoreSession(id: string): Promise<void> {
  await rowOf(id);
  await (await db()).update(s).set({ removedAt: null }).where(eq(s.id, id));
  forget(id);
}

/** Removes for good what has been in the bin for longer than thirty days, with its files. Gives how many. */
export async function emptyBin(now = Date.now()): Promise<number> {
  const old = await (
    await db()
  )
    .delete(s)
    .where(and(isNotNull(s.removedAt), lt(s.removedAt, new Date(now - DAYS * DAY))))
    .returning({ id: s.id });
  for (const { id } of old) {
    forget(id);
    forgetSteps(id);
    await removeFolder(sessionDir(id)).catch((error: unknown) => log.warn(error));
  }
  return old.length;
}

const timer = () => shared('bin-timer', () => ({ every: null as ReturnType<typeof setInterval> | null }));

/** Empties the bin now, and once a day while the server runs. */
export async function keepBin(): Promise<void> {
  await emptyBin();
  timer().every ??= setInterval(() => void emptyBin().catch((error: unknown) => log.warn(error)), DAY);
  timer().every?.unref();
}
