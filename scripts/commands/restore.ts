import path from 'node:path';
import { alone } from '@/server/database';
import { copies, restoreCopy } from '@/server/database/copies';
import { lockFolder } from '@/server/database/lock';

/** Puts a copy of the database in the place of the one in use, which is kept; the server must be stopped. */
export async function restore(day: string | undefined): Promise<void> {
  if (!alone())
    throw new Error(
      'The database is a PostgreSQL of its own (DATABASE_URL): pg_restore puts its copies back. Nothing was changed.',
    );
  const all = copies();
  const names = all.map((f) => path.basename(f, '.tar.gz'));
  if (all.length === 0) throw new Error('There is no copy of the database in this data folder. Nothing was changed.');
  const at = day === undefined ? 0 : names.findIndex((n) => n.startsWith(day.replace(/[-:]/g, '')));
  if (at < 0) throw new Error(`There is no copy of ${day}; there are ${names.join(', ')}. Nothing was changed.`);
  const unlock = await lockFolder();
  try {
    const kept = await restoreCopy(all[at]!);
    console.log(
      `The database is as it was at ${names[at]}. ${kept ? `The one before is kept in ${kept}. ` : ''}Recorded files are untouched.`,
    );
  } finally {
    await unlock();
  }
}
