import { and, asc, desc, eq, gt } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import {
  applyEdit,
  patchBetween,
  patchDoc,
  readEdit,
  upgradeDoc,
  type EditJson,
  type Patch,
  type SessionDoc,
} from '@/core/session';
import { db, tables } from '../database';
import { Refused } from '../http';
import { shared } from '../shared';
import { publish, type ChangeEvent } from './events';
import { stacks } from './history';

export interface OpenSession {
  id: string;
  revision: number;
  doc: SessionDoc;
  /** Labels of what would be undone and redone. */
  undo: string | null;
  redo: string | null;
}

const queues = () => shared('session-queues', () => new Map<string, Promise<unknown>>());

// One change of a session after another.
function inTurn<T>(session: string, work: () => Promise<T>): Promise<T> {
  const turn = (queues().get(session) ?? Promise.resolve()).catch(() => {}).then(work);
  queues().set(session, turn);
  return turn;
}

export async function createSession(doc: SessionDoc, id = nanoid(10)): Promise<string> {
  await (await db()).insert(tables.sessions).values({ id, revision: 0, doc });
  return id;
}

export async function listSessions(): Promise<{ id: string; name: string; format: SessionDoc['format'] }[]> {
  const rows = await (await db()).select().from(tables.sessions).orderBy(desc(tables.sessions.createdAt));
  return rows.map((r) => ({ id: r.id, name: r.doc.name, format: r.doc.format }));
}

/** The stored session, at the present release's form. */
export async function loadSession(id: string) {
  const [row] = await (await db()).select().from(tables.sessions).where(eq(tables.sessions.id, id));
  if (!row)
    throw new Refused(
      404,
      `There is no session "${id}". It may have been removed; the list of sessions shows what is there.`,
    );
  return { ...row, doc: upgradeDoc(row.doc) };
}

async function historyOf(session: string) {
  const e = tables.edits;
  const rows = await (
    await db()
  )
    .select({ revision: e.revision, kind: e.kind, undoes: e.undoes, label: e.label })
    .from(e)
    .where(eq(e.session, session))
    .orderBy(asc(e.revision));
  const { undo, redo } = stacks(rows);
  const label = (revision: number | undefined) => rows.find((r) => r.revision === revision)?.label ?? null;
  return { undo, redo, undoLabel: label(undo.at(-1)), redoLabel: label(redo.at(-1)) };
}

export async function openSession(id: string): Promise<OpenSession> {
  const row = await loadSession(id);
  const { undoLabel, redoLabel } = await historyOf(id);
  return { id, revision: row.revision, doc: row.doc, undo: undoLabel, redo: redoLabel };
}

/** The changes after `revision`, oldest first. */
export async function changesSince(
  session: string,
  revision: number,
): Promise<{ revision: number; editId: string; patches: Patch[] }[]> {
  const e = tables.edits;
  return (await db())
    .select({ revision: e.revision, editId: e.editId, patches: e.patches })
    .from(e)
    .where(and(eq(e.session, session), gt(e.revision, revision)))
    .orderBy(asc(e.revision));
}

// A step that is hard to see through leaves a version behind, beside the undo.
async function keepBefore(session: string, revision: number, doc: SessionDoc, label: string): Promise<void> {
  await (
    await db()
  )
    .insert(tables.versions)
    .values({ id: nanoid(10), session, name: `before: ${label}`, automatic: true, revision, doc });
}

interface Row {
  kind: 'edit' | 'undo' | 'redo' | 'aside';
  editId: string;
  label: string;
  undoes?: number;
  edits: unknown[];
  patches: Patch[];
  inverse: Patch[];
}

async function store(session: string, revision: number, doc: SessionDoc, row: Row): Promise<ChangeEvent> {
  await (
    await db()
  ).transaction(async (tx) => {
    await tx.insert(tables.edits).values({ session, revision, ...row });
    await tx.update(tables.sessions).set({ revision, doc }).where(eq(tables.sessions.id, session));
  });
  const { undoLabel, redoLabel } = await historyOf(session);
  const change = {
    revision,
    editId: row.editId,
    label: row.label,
    patches: row.patches,
    undo: undoLabel,
    redo: redoLabel,
  };
  publish(session, { kind: 'change', change });
  return change;
}

/**
 * Applies edits as one change; all or none. The same `editId` again is answered with what happened then.
 * Throws EditRefused when one is nonsense; the session stays as it was.
 */
export function edit(session: string, editId: string, jsons: readonly unknown[]): Promise<{ revision: number }> {
  return inTurn(session, async () => {
    const row = await loadSession(session);
    const e = tables.edits;
    const [known] = await (
      await db()
    )
      .select({ revision: e.revision })
      .from(e)
      .where(and(eq(e.session, session), eq(e.editId, editId)));
    if (known) return { revision: known.revision };
    const list = jsons.map(readEdit);
    if (list.length === 0) throw new Refused(422, 'The request holds no edit; nothing was changed.');
    let doc = row.doc;
    const patches: Patch[] = [];
    const inverse: Patch[] = [];
    for (const one of list) {
      const change = applyEdit(doc, one);
      doc = change.doc;
      patches.push(...change.patches);
      inverse.unshift(...change.inverse);
    }
    if (patches.length === 0) return { revision: row.revision };
    const risk = list.find((one) => one.risky);
    if (risk) await keepBefore(session, row.revision, row.doc, risk.label);
    const kind = list.every((one) => one.aside) ? 'aside' : 'edit';
    return store(session, row.revision + 1, doc, {
      kind,
      editId,
      label: list[0]!.label,
      edits: [...jsons],
      patches,
      inverse,
    });
  });
}

/** Puts a whole new document in the place of the present one, as one change that can be undone. */
export function replaceDoc(
  session: string,
  label: string,
  next: (now: SessionDoc) => SessionDoc,
): Promise<ChangeEvent> {
  return inTurn(session, async () => {
    const row = await loadSession(session);
    const { doc, patches, inverse } = patchBetween(row.doc, next(row.doc));
    return store(session, row.revision + 1, doc, {
      kind: 'edit',
      editId: nanoid(),
      label,
      edits: [],
      patches,
      inverse,
    });
  });
}

/** An edit the server makes itself. */
export const serverEdit = (session: string, one: EditJson): Promise<{ revision: number }> =>
  edit(session, nanoid(), [one]);

/** Takes the last change back, or forward again. */
export function travel(session: string, direction: 'undo' | 'redo'): Promise<ChangeEvent> {
  return inTurn(session, async () => {
    const row = await loadSession(session);
    const history = await historyOf(session);
    const revision = history[direction].at(-1);
    if (revision === undefined)
      throw new Refused(409, direction === 'undo' ? 'There is nothing left to undo.' : 'There is nothing to redo.');
    const e = tables.edits;
    const [original] = await (
      await db()
    )
      .select()
      .from(e)
      .where(and(eq(e.session, session), eq(e.revision, revision)));
    const { patches, inverse, label } = original!;
    const [forward, back] = direction === 'undo' ? [inverse, patches] : [patches, inverse];
    const doc = patchDoc(row.doc, forward);
    return store(session, row.revision + 1, doc, {
      kind: direction,
      editId: nanoid(),
      undoes: revision,
      label,
      edits: [],
      patches: forward,
      inverse: back,
    });
  });
}
