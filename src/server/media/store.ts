import { stat } from 'node:fs/promises';
import { and, eq } from 'drizzle-orm';
import type { MediaRef } from '@/core/session';
import { mediaPath } from '../config';
import { db, tables } from '../database';
import { Refused } from '../http';
import { fetchAnew, keep, objectsUrl } from '../objects';
import { diskPaths } from './fileSource';
import { sumSoon } from './sums';

export type MediaRow = typeof tables.media.$inferSelect;
/** What a new file of a session is; what is noted of its bytes is found when it is entered. */
export type NewRow = Omit<MediaRow, 'createdAt' | 'bytes' | 'sha256'>;

/** Size of a file of a session as it lies in its folder. */
async function sizeOf({ session, file }: Pick<MediaRow, 'session' | 'file'>): Promise<number> {
  const sizes = await Promise.all(diskPaths(mediaPath(session, file)).map((p) => stat(p)));
  return sizes.reduce((n, s) => n + s.size, 0);
}

/**
 * Keeps finished files of a session where everybody finds them; gives their rows with what is noted of their bytes. Once they
 * are stored, `sumSoon` takes their checksums.
 */
export async function sealed<R extends Pick<MediaRow, 'session' | 'file'>>(
  rows: readonly R[],
): Promise<(R & { bytes: number; sha256: null })[]> {
  const out = [];
  for (const row of rows) {
    out.push({ ...row, bytes: await sizeOf(row), sha256: null });
    await keep(diskPaths(mediaPath(row.session, row.file)));
  }
  return out;
}

/** Enters a finished file, or one that was lengthened. */
export async function addMedia(row: NewRow): Promise<void> {
  const [whole] = await sealed([row]);
  const { frames, bytes } = whole!;
  await (
    await db()
  )
    .insert(tables.media)
    .values(whole!)
    .onConflictDoUpdate({ target: tables.media.id, set: { frames, bytes, sha256: null } });
  sumSoon([row.id]);
}

/** Notes that the bytes of a file are others, after what it says of itself was changed, or it was put back. */
export async function sealAgain(row: MediaRow): Promise<void> {
  const [again] = await sealed([row]);
  const { bytes } = again!;
  await (await db()).update(tables.media).set({ bytes, sha256: null }).where(eq(tables.media.id, row.id));
  sumSoon([row.id]);
}

/** Takes a name for a file that is about to be entered; false where the session has a file of that name. */
export async function takeName(row: NewRow): Promise<boolean> {
  const m = tables.media;
  const [other] = await (
    await db()
  )
    .select({ id: m.id })
    .from(m)
    .where(and(eq(m.session, row.session), eq(m.file, row.file)));
  if (other) return false;
  await (await db()).insert(m).values(row);
  return true;
}

/** Gives the name of a file free that was not entered after all. */
export async function giveName(id: string): Promise<void> {
  await (await db()).delete(tables.media).where(eq(tables.media.id, id));
}

export async function mediaRow(id: string): Promise<MediaRow> {
  const [row] = await (await db()).select().from(tables.media).where(eq(tables.media.id, id));
  if (!row) throw new Refused(404, `There is no file "${id}" in the media of any session.`);
  return row;
}

export async function mediaOf(session: string): Promise<MediaRow[]> {
  return (await db()).select().from(tables.media).where(eq(tables.media.session, session));
}

/**
 * Path of a file of a session. It is fetched first where only the object store has it, or has a longer one than this server;
 * what is nowhere is not there.
 */
export async function mediaHere({ session, file, bytes }: MediaRow): Promise<string> {
  const path = mediaPath(session, file);
  if (!objectsUrl()) return path;
  const paths = diskPaths(path);
  const sizes = await Promise.all(
    paths.map((p) =>
      stat(p).then(
        (s) => s.size,
        () => null,
      ),
    ),
  );
  // One that is longer grows here at this moment.
  const old = bytes !== null && sizes.reduce<number>((n, s) => n + (s ?? 0), 0) < bytes;
  for (const [i, p] of paths.entries()) if (sizes[i] === null || old) await fetchAnew(p);
  return path;
}

export const pathOfMedia = async (id: string): Promise<string> => mediaHere(await mediaRow(id));

export const toRef = (row: NewRow): MediaRef => ({
  id: row.id,
  name: row.file,
  channels: row.channels,
  frames: row.frames,
  sampleRate: row.sampleRate,
  kind: row.kind,
});
