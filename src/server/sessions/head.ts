// A large document is stored whole now and then; what was changed since lies in its steps.
import { and, asc, eq, gt } from 'drizzle-orm';
import { patchDoc, type Patch, type SessionDoc } from '@/core/session';
import { db, tables } from '../database';
import { shared } from '../shared';

type Row = Pick<typeof tables.sessions.$inferSelect, 'id' | 'revision' | 'doc' | 'docRevision'>;

/** A document of fewer letters is stored whole with each change. */
const LARGE = 200_000;
/** A larger one after so many changes. */
const EVERY = 40;
/** What lists of sessions show is stored at once. */
const SHOWN = new Set<string | number | undefined>(['name', 'code', 'format']);

/** The document of a row as it is at the row's revision. */
export async function headOf({ id, revision, doc, docRevision }: Row): Promise<SessionDoc> {
  if (docRevision === null || docRevision >= revision) return doc;
  const e = tables.edits;
  const since = await (
    await db()
  )
    .select({ patches: e.patches })
    .from(e)
    .where(and(eq(e.session, id), gt(e.revision, docRevision)))
    .orderBy(asc(e.revision));
  return since.reduce((head, { patches }) => patchDoc(head, patches), doc);
}

/** Letters of each document when it was last stored whole, and the revision that it had then. */
const last = () => shared('sessions-stored-whole', () => new Map<string, { letters: number; revision: number }>());

/** Whether a change is stored with the whole document, or its patches will do. */
export function storedWhole(session: string, revision: number, doc: SessionDoc, patches: readonly Patch[]): boolean {
  const before = last().get(session);
  const due =
    !before ||
    before.letters < LARGE ||
    revision - before.revision >= EVERY ||
    patches.some(({ path }) => path.length === 0 || SHOWN.has(path[0]));
  if (due) last().set(session, { letters: JSON.stringify(doc).length, revision });
  return due;
}
