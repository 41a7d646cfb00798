import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import lockfile from 'proper-lockfile';
import { appDir, dataDir } from '../config';
import { shared } from '../shared';
import * as schema from './schema';

export type Database = PgliteDatabase<typeof schema>;

interface Holder {
  opening: Promise<Database> | null;
  client: PGlite | null;
  unlock: (() => Promise<void>) | null;
}

const holder = (): Holder => shared('database', () => ({ opening: null, client: null, unlock: null }));

/** The data folder is used by another process. */
export class DataFolderBusy extends Error {}

/** Opens the database once: takes the lock on the data folder, then applies migrations. */
export function openDatabase(): Promise<Database> {
  const h = holder();
  return (h.opening ??= open(h));
}

/** The open database. */
export const db = openDatabase;

async function open(h: Holder): Promise<Database> {
  const dir = path.join(dataDir(), 'database');
  mkdirSync(dir, { recursive: true });
  try {
    // A lock whose holder died goes stale after ten seconds and is then taken over.
    h.unlock = await lockfile.lock(dataDir(), {
      stale: 10_000,
      retries: { retries: 14, minTimeout: 1000, maxTimeout: 1000 },
      onCompromised: () => process.exit(70),
    });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ELOCKED') throw error;
    throw new DataFolderBusy(
      `The data folder ${dataDir()} is in use by another Wide Room. Stop that one, or choose another folder with WIDE_ROOM_DATA.`,
    );
  }
  const client = new PGlite(dir);
  await client.waitReady;
  h.client = client;
  const database = drizzle(client, { schema });
  await migrate(database, { migrationsFolder: path.join(appDir(), 'src/server/database/migrations') });
  return database;
}

export async function closeDatabase(): Promise<void> {
  const h = holder();
  await h.client?.close();
  await h.unlock?.();
  Object.assign(h, { opening: null, client: null, unlock: null });
}
