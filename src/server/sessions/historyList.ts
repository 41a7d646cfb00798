import { asc, eq } from 'drizzle-orm';
import { subjectOf } from '@/core/session';
import { db, tables } from '../database';
import { stacks } from './history';
import { loadSession } from './store';

export interface HistoryStep {
  revision: number;
  label: string;
  /** What it was about, by the names of today; empty where that has none. */
  subject: string;
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
    .select({ revision: e.revision, kind: e.kind, undoes: e.undoes, label: e.label, at: e.at, edits: e.edits })
    .from(e)
    .where(eq(e.session, session))
    .orderBy(asc(e.revision));
  const { undo, redo } = stacks(rows);
  const { doc } = await loadSession(session);
  const done = new Set(undo);
  const known = new Set([...undo, ...redo]);
  return rows
    .filter((r) => known.has(r.revision))
    .map(({ revision, label, at, edits }) => ({
      revision,
      label,
      subject: subjectOf(doc, edits as unknown[]),
      at: at.toISOString(),
      done: done.has(revision),
    }))
    .reverse();
}
