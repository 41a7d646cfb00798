import { asc, eq } from 'drizzle-orm';
import { db, tables } from '../database';
import { stacks } from './history';

export interface HistoryStep {
  revision: number;
  label: string;
  at: string;
  /** Whether it counts now, or was undone and could be done again. */
  done: boolean;
}

/** What can be undone and redone, the newest first. */
export async function historyList(session: string): Promise<HistoryStep[]> {
  const e = tables.edits;
  const rows = await (
    await db()
  )
    .select({ revision: e.revision, kind: e.kind, undoes: e.undoes, label: e.label, at: e.at })
    .from(e)
    .where(eq(e.session, session))
    .orderBy(asc(e.revision));
  const { undo, redo } = stacks(rows);
  const done = new Set(undo);
  const known = new Set([...undo, ...redo]);
  return rows
    .filter((r) => known.has(r.revision))
    .map((r) => ({ revision: r.revision, label: r.label, at: r.at.toISOString(), done: done.has(r.revision) }))
    .reverse();
}
