import { and, asc, desc, eq, gt, lt, gte } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { patchDoc, type SessionDoc } from '@/core/session';
import { alone, db, tables } from '../database';
import { log } from '../log';
import { shared } from '../shared';
import { History } from './history';
import { thinVersions } from './thinVersions';

/** Steps that can be taken back at least; older ones are packed when so many more have come. */
export const KEPT_STEPS = 1000;
const SLACK = 500;

const e = tables.edits;

async function read(session: string, after = -1) {
  return (await db())
    .select({ revision: e.revision, kind: e.kind, undoes: e.undoes, label: e.label, seat: e.seat })
    .from(e)
    .where(and(eq(e.session, session), gt(e.revision, after)))
    .orderBy(asc(e.revision));
}

export type StoredStep = Awaited<ReturnType<typeof read>>[number];

// What was read once is only added to: by this process, or by what others stored since.
const known = () => shared('session-steps', () => new Map<string, Promise<History<StoredStep>>>());

/** The steps of a session. */
export function historyOf(session: string): Promise<History<StoredStep>> {
  const there = known().get(session);
  if (there) return alone() ? there : there.then((history) => caughtUp(session, history));
  const reading = read(session).then((steps) => new History(steps));
  known().set(session, reading);
  reading.catch(() => known().delete(session));
  return reading;
}

async function caughtUp(session: string, history: History<StoredStep>): Promise<History<StoredStep>> {
  for (const step of await read(session, history.last)) history.add(step);
  return history;
}

/** They were changed in the database; they are read anew. */
export const forgetSteps = (session: string): void => void known().delete(session);

/** Sessions whose steps could not be packed since this start: that is not tried again with every edit. */
const unpackable = () => shared('session-unpackable', () => new Set<string>());

export const leaveUnpacked = (session: string): void => void unpackable().add(session);

/**
 * Packs what nobody takes back any more into a version: the session as it was before the last thousand steps. The log of a
 * session stays as long as its last thousand steps, however old it is. `doc` is the session at its newest step.
 */
export async function packSteps(session: string, doc: SessionDoc): Promise<void> {
  if (unpackable().has(session)) return;
  const history = await historyOf(session);
  const { undo } = history.of(null);
  if (undo.length <= KEPT_STEPS + SLACK) return;
  const first = undo[undo.length - KEPT_STEPS]!;
  const database = await db();
  const newer = await database
    .select({ inverse: e.inverse })
    .from(e)
    .where(and(eq(e.session, session), gte(e.revision, first)))
    .orderBy(desc(e.revision));
  const before = newer.reduce(
    (d, { inverse }) =>
      patchDoc(
        d,
        inverse.filter((p) => p.path[0] !== 'monitor'),
      ),
    doc,
  );
  const name = `before the last ${KEPT_STEPS} steps`;
  await database.transaction(async (to) => {
    const { versions } = tables;
    await to
      .insert(versions)
      .values({ id: nanoid(10), session, name, automatic: true, revision: first - 1, doc: before });
    await to.delete(e).where(and(eq(e.session, session), lt(e.revision, first)));
  });
  forgetSteps(session);
  await thinVersions(session);
  log.info({ session, first }, 'older steps are packed into a version');
}
