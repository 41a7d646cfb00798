import { and, desc, eq, gt, gte, lt, sql } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { patchDoc, type SessionDoc } from '@/core/session';
import { alone, db, tables } from '../database';
import { log } from '../log';
import { shared } from '../shared';
import { History } from './history';
import { thinVersions } from './thinVersions';

/** Steps that can be taken back at least; older ones are packed when so many more have come. */
export const KEPT_STEPS = 1000;
/** Changes that are kept at most: what is taken back and made again all day leaves many of few steps. */
export const KEPT_CHANGES = 5000;
const SLACK = 500;

const e = tables.edits;

type Columns = [
  StoredStep['revision'],
  StoredStep['kind'],
  StoredStep['undoes'],
  StoredStep['label'],
  StoredStep['seat'],
];

// In one value: to read more than a thousand rows one by one takes longer than all else that opening a session does.
async function read(session: string, after = -1): Promise<StoredStep[]> {
  const all = sql<
    Columns[] | null
  >`json_agg(json_build_array(${e.revision}, ${e.kind}, ${e.undoes}, ${e.label}, ${e.seat}) order by ${e.revision})`;
  const [row] = await (
    await db()
  )
    .select({ all })
    .from(e)
    .where(and(eq(e.session, session), gt(e.revision, after)));
  return (row?.all ?? []).map(([revision, kind, undoes, label, seat]) => ({ revision, kind, undoes, label, seat }));
}

export type StoredStep = Pick<typeof e.$inferSelect, 'revision' | 'kind' | 'undoes' | 'label' | 'seat'>;

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

/** Where the log of a session is to begin; null: it is short enough. */
function beginning(history: History<StoredStep>): { first: number; name: string } | null {
  const { undo } = history.of(null);
  const [steps, changes] = [undo.length > KEPT_STEPS + SLACK, history.size > KEPT_CHANGES + SLACK];
  if (!steps && !changes) return null;
  const byStep = steps ? undo[undo.length - KEPT_STEPS]! : -1;
  const byChange = changes ? history.revisionFromEnd(KEPT_CHANGES) : -1;
  return byStep >= byChange
    ? { first: byStep, name: `before the last ${KEPT_STEPS} steps` }
    : { first: byChange, name: `before the last ${KEPT_CHANGES} changes` };
}

/**
 * Packs what nobody takes back any more into a version: the session as it was before the last thousand steps, or before
 * the last five thousand changes. The log of a session stays that long, however old it is. `doc` is the session at its
 * newest step.
 */
export async function packSteps(session: string, doc: SessionDoc): Promise<void> {
  if (unpackable().has(session)) return;
  const begins = beginning(await historyOf(session));
  if (!begins) return;
  const { first, name } = begins;
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
