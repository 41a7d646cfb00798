import { and, asc, desc, eq, gt, gte, isNull, sql } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import {
  applyEdit,
  completed,
  ChangedSince,
  faultOf,
  patchBetween,
  takeBack,
  patchDoc,
  readEdit,
  subjectOf,
  upgradeDoc,
  type EditJson,
  type MediaRef,
  type Patch,
  type SessionDoc,
} from '@/core/session';
import type { ChangeEvent } from '@/core/wire';
import { makeSessionDir } from '../config';
import { alone, countChange, db, tables } from '../database';
import { askingSeat, Refused } from '../http';
import { log } from '../log';
import { sealed, sumSoon } from '../media';
import { shared } from '../shared';
import { inTurn } from '../turns';
import { publish } from './events';
import { headOf, storedWhole } from './head';
import { onOthers } from './others';
import { namesOf, seatsHere } from './people';
import { forgetSteps, historyOf, leaveUnpacked, packSteps } from './steps';
import { thinVersions } from './thinVersions';

export interface OpenSession {
  id: string;
  revision: number;
  doc: SessionDoc;
  /** Labels of what would be undone and redone. */
  undo: string | null;
  redo: string | null;
}

// One change of a session after another.
const changing = <T>(session: string, work: () => Promise<T>): Promise<T> => inTurn(`session ${session}`, work);

/** Stores a new session, with the files that lie in its folder already. */
export async function createSession(
  doc: SessionDoc,
  id = nanoid(10),
  media: readonly MediaRef[] = [],
): Promise<string> {
  makeSessionDir(id);
  const rows = await sealed(
    media.map(({ name, order: _order, unsaid: _unsaid, ...ref }) => ({ ...ref, session: id, file: name })),
  );
  await (
    await db()
  ).transaction(async (to) => {
    await to.insert(tables.sessions).values({ id, revision: 0, doc });
    for (const row of rows) await to.insert(tables.media).values(row);
  });
  sumSoon(rows.map((row) => row.id));
  return id;
}

export async function listSessions(): Promise<{ id: string; name: string; format: SessionDoc['format'] }[]> {
  const s = tables.sessions;
  const doc = s.doc;
  return (await db())
    .select({
      id: s.id,
      name: sql<string>`${doc} ->> 'name'`,
      format: sql<SessionDoc['format']>`${doc} -> 'format'`,
    })
    .from(s)
    .where(isNull(s.removedAt))
    .orderBy(desc(s.createdAt));
}

type SessionRow = typeof tables.sessions.$inferSelect;

// Where this process is the only one that writes, what was stored last need not be read again; beside others its revision is
// looked at. Documents are never changed in place.
const known = () => shared('sessions-known', () => new Map<string, SessionRow>());
/** How often each session was stored: what was read meanwhile may be of before, and is not kept. */
const stored = () => shared('sessions-stored', () => new Map<string, number>());

/** What is kept of a session for reading is read anew. */
export function forget(id: string): void {
  stored().set(id, (stored().get(id) ?? 0) + 1);
  known().delete(id);
}

/** The stored session, at the present release's form. */
export async function loadSession(id: string): Promise<SessionRow> {
  const found = known().get(id);
  if (found && (alone() || (await isCurrent(found)))) return found;
  const before = stored().get(id);
  const [row] = await (await db()).select().from(tables.sessions).where(eq(tables.sessions.id, id));
  if (!row)
    throw new Refused(
      404,
      `There is no session "${id}". It may have been removed; the list of sessions shows what is there.`,
    );
  if (row.removedAt)
    throw new Refused(
      404,
      `"${row.doc.name}" was removed and is in the bin. All sessions, in the Brief, bring it back.`,
    );
  const open = { ...row, doc: upgradeDoc(await headOf(row)) };
  if (stored().get(id) === before) known().set(id, open);
  return open;
}

async function isCurrent({ id, revision }: SessionRow): Promise<boolean> {
  const s = tables.sessions;
  const [now] = await (await db()).select({ revision: s.revision, removedAt: s.removedAt }).from(s).where(eq(s.id, id));
  return now?.revision === revision && now.removedAt === null;
}

/** The revision of every session. */
export async function revisions(): Promise<Record<string, number>> {
  const { id, revision } = tables.sessions;
  const rows = await (await db()).select({ id, revision }).from(tables.sessions);
  return Object.fromEntries(rows.map((r) => [r.id, r.revision]));
}

export async function openSession(id: string): Promise<OpenSession> {
  const row = await loadSession(id);
  return { id, revision: row.revision, doc: row.doc, ...(await historyOf(id)).labelsOf(askingSeat()) };
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

/** Longest name of a version. */
const MOST_NAME = 80;

// A step that is hard to see through leaves a version behind, beside the undo; it is called after what it changed.
async function keepBefore(
  session: string,
  revision: number,
  doc: SessionDoc,
  label: string,
  subject: string,
): Promise<void> {
  const name = `before: ${label}${subject ? `, ${subject}` : ''}`.slice(0, MOST_NAME);
  await (await db()).insert(tables.versions).values({ id: nanoid(10), session, name, automatic: true, revision, doc });
  await thinVersions(session);
}

interface Seated {
  revision: number;
  seat: string | null;
}

interface Row {
  kind: 'edit' | 'undo' | 'redo';
  editId: string;
  label: string;
  undoes?: number;
  edits: unknown[];
  patches: Patch[];
  inverse: Patch[];
}

/** What a take is written as, and the track that it comes onto, stay while it rolls. Throws Refused where they would not. */
export async function refuseWhileRecording(session: string, before: SessionDoc, after: SessionDoc): Promise<void> {
  const formatStays = (
    ['sampleRate', 'wordLength', 'fileKind', 'perChannel', 'frameRate', 'startTimecode'] as const
  ).every((k) => (before.format[k] ?? false) === (after.format[k] ?? false));
  const left =
    before.tracks === after.tracks
      ? []
      : before.tracks.filter((t) => after.tracks.find((now) => now.id === t.id)?.layout !== t.layout);
  if (formatStays && left.length === 0) return;
  const r = tables.recordings;
  const rolling = await (
    await db()
  )
    .select({ file: r.file, track: r.track })
    .from(r)
    .where(and(eq(r.session, session), eq(r.state, 'rolling')));
  if (!formatStays && rolling[0])
    throw new Refused(
      409,
      `${rolling[0].file} is being recorded or waits to be delivered, so the format stays until it is there. Nothing was changed.`,
    );
  const track = left.find((t) => rolling.some((one) => one.track === t.id));
  if (track)
    throw new Refused(
      409,
      `A take is being recorded on ${track.name} or waits to be delivered, so the track stays as it is until it is there. Nothing was changed.`,
    );
}

/** What everybody who has a session open is told of a change. */
function changeOf(
  session: string,
  history: Awaited<ReturnType<typeof historyOf>>,
  { revision, editId, label, patches, seat }: Pick<Row, 'editId' | 'label' | 'patches'> & Seated,
): ChangeEvent {
  return {
    ...{ revision, editId, label, patches, by: seat },
    ...history.labelsOf(seat),
    histories: Object.fromEntries(seatsHere(session).map((here) => [here, history.labelsOf(here)])),
  };
}

/** A change that another process stored; null where it is packed by now. */
export async function storedChange(session: string, revision: number): Promise<ChangeEvent | null> {
  const e = tables.edits;
  const [row] = await (
    await db()
  )
    .select({ revision: e.revision, editId: e.editId, label: e.label, patches: e.patches, seat: e.seat })
    .from(e)
    .where(and(eq(e.session, session), eq(e.revision, revision)));
  return row ? changeOf(session, await historyOf(session), row) : null;
}

onOthers({
  change: storedChange,
  forget: (session) => {
    forget(session);
    forgetSteps(session);
  },
});

async function store(
  session: string,
  revision: number,
  before: SessionDoc,
  doc: SessionDoc,
  row: Row,
): Promise<ChangeEvent> {
  await refuseWhileRecording(session, before, doc);
  const seat = askingSeat();
  const history = await historyOf(session);
  const held = known().get(session);
  const whole = storedWhole(session, revision, doc, row.patches) || held?.revision !== revision - 1;
  forget(session);
  await (
    await db()
  ).transaction(async (tx) => {
    await tx.insert(tables.edits).values({ session, revision, seat, ...row });
    await tx
      .update(tables.sessions)
      .set(whole ? { revision, doc, docRevision: null } : { revision, docRevision: held.docRevision ?? held.revision })
      .where(eq(tables.sessions.id, session));
  });
  // Read again from the database where it lies there whole: it orders members in its own way.
  forget(session);
  if (!whole) known().set(session, { ...held, revision, doc, docRevision: held.docRevision ?? held.revision });
  history.add({ revision, seat, kind: row.kind, undoes: row.undoes ?? null, label: row.label });
  const change = changeOf(session, history, { revision, seat, ...row });
  publish(session, { kind: 'change', change });
  countChange();
  // The change is stored, whatever becomes of older ones.
  await packSteps(session, doc).catch((error: unknown) => {
    leaveUnpacked(session);
    log.warn(error, 'older steps stay as they are');
  });
  return change;
}

/**
 * Applies edits as one change; all or none. The same `editId` again is answered with what happened then.
 * Throws EditRefused when one is nonsense; the session stays as it was.
 */
export function edit(session: string, editId: string, jsons: readonly unknown[]): Promise<{ revision: number }> {
  return changing(session, async () => {
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
    const own = list.find((one) => one.personal);
    if (own) throw new Refused(422, `"${own.label}" belongs to a seat, not to the session; nothing was changed.`);
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
    if (risk) await keepBefore(session, row.revision, row.doc, risk.label, subjectOf(row.doc, jsons));
    return store(session, row.revision + 1, row.doc, doc, {
      kind: 'edit',
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
  return changing(session, async () => {
    const row = await loadSession(session);
    const { doc, patches, inverse } = patchBetween(row.doc, next(row.doc));
    return store(session, row.revision + 1, row.doc, doc, {
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

/**
 * Takes back the asking seat's own last step, or makes it again; what others did since stays. `past`: only steps before
 * this revision. Throws Refused where somebody else has changed the same thing since.
 */
export function travel(session: string, direction: 'undo' | 'redo', past = Infinity): Promise<ChangeEvent> {
  return changing(session, async () => {
    const row = await loadSession(session);
    const seat = askingSeat();
    const history = await historyOf(session);
    const revision = history.of(seat)[direction].findLast((r) => r < past);
    if (revision === undefined)
      throw new Refused(409, direction === 'undo' ? 'There is nothing left to undo.' : 'There is nothing to redo.');
    const straight = history.standsAt(revision, direction);
    const e = tables.edits;
    const since = await (
      await db()
    )
      .select({ revision: e.revision, seat: e.seat, label: e.label, patches: e.patches, inverse: e.inverse })
      .from(e)
      .where(and(eq(e.session, session), straight ? eq(e.revision, revision) : gte(e.revision, revision)))
      .orderBy(asc(e.revision));
    const step = since[0];
    if (!step) {
      forgetSteps(session);
      throw new Refused(409, 'That step was packed meanwhile and is not taken back any more. Nothing was changed.');
    }
    const { label } = step;
    const moved = await moveBy(row.doc, since, direction, seat);
    // Steps of an earlier release bring back what had fewer members then.
    const { doc, ...more } = completed(moved.doc);
    const fault = faultOf(row.doc, doc);
    if (fault)
      throw new Refused(
        409,
        `"${label}" cannot be ${WAY[direction]} as things are now: ${fault}. Nothing was changed.`,
        { revision },
      );
    return store(session, row.revision + 1, row.doc, doc, {
      kind: direction,
      editId: nanoid(),
      undoes: revision,
      label,
      edits: [],
      patches: [...moved.patches, ...more.patches],
      inverse: [...more.inverse, ...moved.inverse],
    });
  });
}

const WAY = { undo: 'taken back', redo: 'made again' };

interface Stored {
  revision: number;
  seat: string | null;
  label: string;
  patches: Patch[];
  inverse: Patch[];
}

/** What the step at the head of `since` did, undone or done again in the present document. */
async function moveBy(now: SessionDoc, since: readonly Stored[], direction: 'undo' | 'redo', seat: string | null) {
  const [step] = since as [Stored, ...Stored[]];
  if (since.length === 1) {
    const [there, back] = [kept(step.inverse), kept(step.patches)];
    const [patches, inverse] = direction === 'undo' ? [there, back] : [back, there];
    return { doc: patchDoc(now, patches), patches, inverse };
  }
  // Back through all that was changed since, to see what the step itself did.
  const raw = [...since.slice(1)].reverse().reduce((d, s) => unmade(d, s), now);
  const [after, before] = [completed(raw).doc, completed(unmade(raw, step)).doc];
  try {
    const [from, to] = direction === 'undo' ? [after, before] : [before, after];
    return patchBetween(now, takeBack(from, to, now));
  } catch (error) {
    if (!(error instanceof ChangedSince)) throw error;
    const other = since.findLast((s) => s.seat !== seat && s.seat !== null);
    const who = (other?.seat && (await namesOf()).get(other.seat)) || 'Somebody else';
    throw new Refused(
      409,
      `"${step.label}" cannot be ${WAY[direction]}: ${who} has changed the same since (${placeOf(now, error.path)}). Nothing was changed.`,
      { revision: step.revision },
    );
  }
}

// What earlier releases kept in the session and this one keeps with the seats is in no document any more.
const kept = (patches: Patch[]): Patch[] => patches.filter((p) => p.path[0] !== 'monitor');

const unmade = (doc: SessionDoc, { inverse }: Stored): SessionDoc => patchDoc(doc, kept(inverse));

// Rows by their names, the last two members of the way.
function placeOf(doc: SessionDoc, path: readonly string[]): string {
  const named = [...doc.tracks, ...doc.buses, ...doc.lines, ...doc.tracks.flatMap((t) => t.clips)];
  return path
    .slice(-2)
    .map((p) => named.find((n) => n.id === p)?.name ?? p)
    .join(', ');
}
