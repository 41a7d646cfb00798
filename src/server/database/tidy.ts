// Nothing tidies the embedded database by itself: each change of a session leaves the row that it replaced, and without this
// the file would grow by a document with every edit. (PostgreSQL 18 manual, 24.1 Routine Vacuuming; a PostgreSQL on its
// own has a process that does it.)
import type { PGlite } from '@electric-sql/pglite';
import { log } from '../log';
import { shared } from '../shared';

/** Changes after which what they left is given free. */
export const TIDY_AFTER = 500;
/** Tables whose rows are replaced or removed while one works. */
const WORKED_ON = 'sessions, edits, versions, people, recordings, media, prints';

interface Tidying {
  client: PGlite | null;
  changes: number;
  running: Promise<void> | null;
}
const tidying = () => shared('database-tidying', (): Tidying => ({ client: null, changes: 0, running: null }));

/** The embedded database is open, or (null) closed. */
export function tidyOf(client: PGlite | null): void {
  Object.assign(tidying(), { client, changes: 0 });
}

/** A change was stored. Nobody waits for what it may set going. */
export function countChange(): void {
  const t = tidying();
  if (!t.client || ++t.changes < TIDY_AFTER) return;
  t.changes = 0;
  t.running ??= tidy(t.client)
    .catch((error: unknown) => log.warn(error, 'the database could not be tidied'))
    .finally(() => (t.running = null));
}

/** Resolves when nothing is being tidied. */
export const tidied = async (): Promise<void> => tidying().running ?? undefined;

/** Gives free what replaced and removed rows left; new ones take its place. */
async function tidy(client: PGlite): Promise<void> {
  await client.exec(`VACUUM ${WORKED_ON}`);
}

/** Larger than this, a table that is mostly empty is written anew (bytes). */
const LARGE = 64e6;
const MOSTLY_EMPTY = 8;

/** Gives back to the disk what an earlier release let grow. */
export async function shrink(client: PGlite, large = LARGE): Promise<void> {
  await tidy(client);
  const size = await client.query<{ whole: number; live: number }>(
    `select pg_total_relation_size('sessions')::float8 as whole,
      (select coalesce(sum(pg_column_size(doc)), 0) from sessions)::float8 as live`,
  );
  const { whole, live } = size.rows[0]!;
  if (whole < large || whole < live * MOSTLY_EMPTY) return;
  await client.exec('VACUUM FULL sessions');
  log.info({ before: whole, live }, 'the table of sessions was written anew without what was free in it');
}
