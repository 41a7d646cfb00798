import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { PGlite } from '@electric-sql/pglite';
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import lockfile from 'proper-lockfile';
import { appDir, dataDir } from '../config';
import { notice } from '../notices';
import { shared } from '../shared';
import { copyNowAndThen, openOrRestore } from './copies';
import * as schema from './schema';

export type Database = PgliteDatabase<typeof schema>;

const STALE_MS = 20_000;

interface Holder {
  opening: Promise<Database> | null;
  client: PGlite | null;
  unlock: (() => Promise<void>) | null;
  stopCopies: (() => void) | null;
}

const holder = (): Holder =>
  shared('database', () => ({ opening: null, client: null, unlock: null, stopCopies: null }));

/** The data folder is used by another process. */
export class DataFolderBusy extends Error {}

/** Opens the database once: takes the lock on the data folder, then applies migrations. */
export function openDatabase(): Promise<Database> {
  const h = holder();
  return (h.opening ??= open(h));
}

/** The open database. */
export const db = openDatabase;

const lockPath = (): string => path.join(dataDir(), 'lock');
const holderPath = (): string => path.join(dataDir(), 'holder.pid');

// A holder that was killed leaves its lock behind; nobody should wait for it to go stale.
function forgetDeadHolder(): void {
  try {
    const pid = Number(readFileSync(holderPath(), 'utf8'));
    if (pid !== process.pid) process.kill(pid, 0);
    else rmSync(lockPath(), { recursive: true, force: true });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ESRCH') rmSync(lockPath(), { recursive: true, force: true });
  }
}

async function lockFolder(): Promise<() => Promise<void>> {
  forgetDeadHolder();
  try {
    const unlock = await lockfile.lock(dataDir(), {
      lockfilePath: lockPath(),
      stale: STALE_MS,
      // The one that leaves may need a moment.
      retries: { retries: 4, minTimeout: 500, maxTimeout: 500 },
      onCompromised: () => process.exit(70),
    });
    writeFileSync(holderPath(), String(process.pid));
    return unlock;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ELOCKED') throw error;
    throw new DataFolderBusy(
      `The data folder ${dataDir()} is in use by another Wide Room. Stop that one, or choose another folder with WIDE_ROOM_DATA.`,
    );
  }
}

async function open(h: Holder): Promise<Database> {
  const dir = path.join(dataDir(), 'database');
  mkdirSync(dir, { recursive: true });
  h.unlock = await lockFolder();
  const { client, notice: told } = await openOrRestore(dir);
  if (told) notice(told);
  h.client = client;
  h.stopCopies = copyNowAndThen(client);
  const database = drizzle(client, { schema });
  await migrate(database, { migrationsFolder: path.join(appDir(), 'src/server/database/migrations') });
  return database;
}

export async function closeDatabase(): Promise<void> {
  const h = holder();
  h.stopCopies?.();
  await h.client?.close();
  await h.unlock?.();
  Object.assign(h, { opening: null, client: null, unlock: null, stopCopies: null });
}
