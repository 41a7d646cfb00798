import { and, desc, eq } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { changesBetween, upgradeDoc, type SessionDoc } from '@/core/session';
import type { ChangeEvent, VersionFacts } from '@/core/wire';
import { db, tables } from '../database';
import { Refused } from '../http';
import { loadSession, replaceDoc } from './store';
import { thinVersions } from './thinVersions';

const v = tables.versions;

export async function listVersions(session: string): Promise<VersionFacts[]> {
  const rows = await (
    await db()
  )
    .select({ id: v.id, name: v.name, automatic: v.automatic, revision: v.revision, at: v.at })
    .from(v)
    .where(eq(v.session, session))
    .orderBy(desc(v.at));
  return rows.map((r) => ({ ...r, at: r.at.toISOString() }));
}

async function versionOf(session: string, id: string) {
  const [row] = await (
    await db()
  )
    .select()
    .from(v)
    .where(and(eq(v.session, session), eq(v.id, id)));
  if (!row) throw new Refused(404, `There is no version "${id}" of this session any more.`);
  return { ...row, doc: upgradeDoc(row.doc) };
}

/** Keeps the session as it is now under a name. */
export async function keepVersion(session: string, name: string, automatic = false): Promise<VersionFacts> {
  const text = name.trim().slice(0, 80);
  if (!text) throw new Refused(422, 'Give the version a name; nothing was kept yet.');
  const row = await loadSession(session);
  const [made] = await (
    await db()
  )
    .insert(v)
    .values({ id: nanoid(10), session, name: text, automatic, revision: row.revision, doc: row.doc })
    .returning({ id: v.id, name: v.name, automatic: v.automatic, revision: v.revision, at: v.at });
  if (automatic) await thinVersions(session);
  return { ...made!, at: made!.at.toISOString() };
}

export async function removeVersion(session: string, id: string): Promise<void> {
  await versionOf(session, id);
  await (await db()).delete(v).where(and(eq(v.session, session), eq(v.id, id)));
}

/** What changed from a version to another, or to the session as it is now, in words. */
export async function compareVersion(session: string, id: string, to?: string): Promise<string[]> {
  const after = to ? (await versionOf(session, to)).doc : (await loadSession(session)).doc;
  return changesBetween((await versionOf(session, id)).doc, after);
}

/** Goes back to a version. What came after is kept as a version of its own, and one undo brings it back too. */
export async function restoreVersion(session: string, id: string): Promise<ChangeEvent> {
  const version = await versionOf(session, id);
  await keepVersion(session, `before going back to ${version.name}`, true);
  return replaceDoc(session, `go back to ${version.name}`, (now) => withMedia(version.doc, now));
}

// Files that came since stay known: takes recorded meanwhile are not orphaned.
const withMedia = (doc: SessionDoc, now: SessionDoc): SessionDoc => ({ ...doc, media: { ...now.media, ...doc.media } });
