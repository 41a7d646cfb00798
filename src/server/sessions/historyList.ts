import { asc, eq } from 'drizzle-orm';
import { subjectOf } from '@/core/session';
import type { HistoryStep } from '@/core/wire';
import { db, tables } from '../database';
import { askingSeat } from '../http';
import { namesOf } from './people';
import { stacks } from './history';
import { loadSession } from './store';

/** What was done, by whomever, the newest first. */
export async function historyList(session: string): Promise<HistoryStep[]> {
  const e = tables.edits;
  const rows = await (
    await db()
  )
    .select({
      revision: e.revision,
      kind: e.kind,
      undoes: e.undoes,
      label: e.label,
      seat: e.seat,
      at: e.at,
      edits: e.edits,
    })
    .from(e)
    .where(eq(e.session, session))
    .orderBy(asc(e.revision));
  const everybody = stacks(rows, null);
  const own = stacks(rows, askingSeat());
  const { doc } = await loadSession(session);
  const done = new Set([...everybody.undo, ...own.undo]);
  const mine = new Set([...own.undo, ...own.redo]);
  const names = await namesOf();
  return rows
    .filter((r) => done.has(r.revision) || mine.has(r.revision))
    .map(({ revision, label, seat, at, edits }) => ({
      revision,
      label,
      subject: subjectOf(doc, edits),
      by: seat && (names.get(seat) ?? 'somebody'),
      at: at.toISOString(),
      done: done.has(revision),
      mine: mine.has(revision),
    }))
    .reverse();
}
