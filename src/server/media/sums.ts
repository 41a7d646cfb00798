// Checksums of a session's files, taken when there is time: a take of three hours is on its track long before it is read once
// more.
import { and, eq, inArray, isNull, notInArray } from 'drizzle-orm';
import { existsSync } from 'node:fs';
import { mediaPath } from '../config';
import { beforeClosing, db, tables } from '../database';
import { log } from '../log';
import { sha256 } from '../sha256';
import { shared } from '../shared';
import { diskPaths } from './fileSource';

interface Waiting {
  ids: Set<string>;
  work: Promise<void> | null;
}

const waiting = () => shared('media-sums', (): Waiting => ({ ids: new Set(), work: null }));

/** Notes the checksum of files soon; what is asked for again is read once more. */
export function sumSoon(ids: readonly string[]): void {
  const w = waiting();
  for (const id of ids) {
    w.ids.delete(id);
    w.ids.add(id);
  }
  beforeClosing(stopSums);
  w.work ??= sumAll(w).finally(() => (w.work = null));
}

/** What waits is taken at the next start. */
async function stopSums(): Promise<void> {
  waiting().ids.clear();
  await summed();
}

/** Resolves when every checksum that was asked for is noted. */
export const summed = async (): Promise<void> => waiting().work ?? undefined;

async function sumAll(w: Waiting): Promise<void> {
  for (const id of w.ids) {
    w.ids.delete(id);
    // One that cannot be read is told where it is used.
    await sumOf(id).catch((error: unknown) => log.debug({ id, error }, 'no checksum was taken'));
  }
}

async function sumOf(id: string): Promise<void> {
  const m = tables.media;
  const [row] = await (await db()).select().from(m).where(eq(m.id, id));
  const paths = row ? diskPaths(mediaPath(row.session, row.file)) : [];
  if (!row || !paths.every((p) => existsSync(p))) return;
  const sum = await sha256(...paths);
  // Unless it was changed while it was read: then it waits again.
  if (!waiting().ids.has(id))
    await (
      await db()
    )
      .update(m)
      .set({ sha256: sum })
      .where(and(eq(m.id, id), eq(m.bytes, row.bytes!)));
}

/** At the start: takes the checksums that were not taken before it ended. Files that still grow are left alone. */
export async function sumRest(): Promise<void> {
  const { media: m, recordings: r } = tables;
  const database = await db();
  const open = await database
    .select({ id: r.id })
    .from(r)
    .where(inArray(r.state, ['rolling', 'recovered']));
  const growing = open.flatMap(({ id }) => [`${id}-processed`, `${id}-dry`]);
  const rows = await database
    .select({ id: m.id })
    .from(m)
    .where(and(isNull(m.sha256), growing.length ? notInArray(m.id, growing) : undefined));
  sumSoon(rows.map((row) => row.id));
}
