import { stat } from 'node:fs/promises';
import { and, eq, isNotNull } from 'drizzle-orm';
import type { SetAside } from '@/core/wire';
import { alone, db, tables } from '../database';
import { log } from '../log';
import { objectsUrl } from '../objects';
import { loadSession } from '../sessions';
import { enter } from './enter';
import { noPlaceFor } from './recordings';
import { fileOf, framesOnDisk, PARTS, setRow, type Row } from './row';

/**
 * After a restart: whatever was rolling is entered as far as it reached the disk. One that cannot be entered is set
 * aside with the reason; its files stay, and everything else goes on.
 */
export async function recoverRecordings(): Promise<void> {
  const r = tables.recordings;
  const open = await (await db()).select().from(r).where(eq(r.state, 'rolling'));
  for (const row of open) {
    if (!alone() && ((await stillComes(row)) || (await elsewhere(row)))) continue;
    try {
      await recover(row);
    } catch (error) {
      await setAside(row, (error as Error).message);
    }
  }
}

/** Samples that were written within this time come from a browser that records (ms). */
const COMES = 60_000;

// Another process may be writing it.
const stillComes = (row: Row): Promise<boolean> =>
  stat(fileOf(row, 'processed')).then(
    ({ mtimeMs }) => mtimeMs > Date.now() - COMES,
    () => false,
  );

// With an object store every server has a folder of its own: what another one records is that one's.
const elsewhere = async (row: Row): Promise<boolean> =>
  objectsUrl() !== null &&
  (await stat(fileOf(row, 'processed')).then(
    () => false,
    () => true,
  ));

async function recover(row: Row): Promise<void> {
  const { doc } = await loadSession(row.session);
  const [processed, dry] = await Promise.all(PARTS.map((part) => framesOnDisk(doc, row, part)));
  const frames = Math.min(processed!, dry!);
  if (frames === 0) {
    await setRow(row.id, { state: 'empty' });
    return;
  }
  const why = noPlaceFor(row, doc);
  if (why) {
    await setAside(row, why);
    return;
  }
  await enter(doc, row, frames, 'recovered');
  log.warn({ file: row.file, seconds: frames / doc.format.sampleRate }, 'a recording that was cut off is on its track');
}

async function setAside(row: Row, why: string): Promise<void> {
  log.error({ file: fileOf(row, 'processed'), why }, 'a recording could not be entered; its files are kept');
  await setRow(row.id, { state: 'aside', reason: why }).catch((error: unknown) =>
    log.error(error, 'and that could not be noted'),
  );
}

/** Somebody has read why a recording was set aside: it is not told again. Its files stay. */
export const noteRead = (id: string): Promise<void> => setRow(id, { reason: null });

/** Recordings of a session that could not be entered. */
export async function recordingsAside(session: string): Promise<SetAside[]> {
  const r = tables.recordings;
  const rows = await (
    await db()
  )
    .select()
    .from(r)
    .where(and(eq(r.session, session), eq(r.state, 'aside'), isNotNull(r.reason)));
  return rows.map((row) => ({ id: row.id, file: row.file, track: row.track, reason: row.reason ?? '' }));
}
