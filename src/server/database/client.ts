import { mkdirSync } from 'node:fs';
import path from 'node:path';
import type { PGlite } from '@electric-sql/pglite';
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { appDir, dataDir } from '../config';
import { notice } from '../notices';
import { shared } from '../shared';
import { copyNowAndThen, openOrRestore } from './copies';
import { lockFolder, stillHolder } from './lock';
import { closePostgres, databaseUrl, openPostgres } from './postgres';
import * as schema from './schema';
import { tidied, tidyOf } from './tidy';

export type Database = PgliteDatabase<typeof schema>;

interface Holder {
  opening: Promise<Database> | null;
  client: PGlite | null;
  unlock: (() => Promise<void>) | null;
  stopCopies: (() => void) | null;
}

const holder = (): Holder =>
  shared('database', () => ({ opening: null, client: null, unlock: null, stopCopies: null }));

/** Opens the database once: takes the lock on the data folder, then applies migrations. */
export function openDatabase(): Promise<Database> {
  const h = holder();
  return (h.opening ??= open(h));
}

/** The open database. */
export const db = (): Promise<Database> => {
  stillHolder();
  return openDatabase();
};

async function open(h: Holder): Promise<Database> {
  const url = databaseUrl();
  // Both speak the same dialect by the same builder; only how a query is sent differs.
  if (url) return (await openPostgres(url)) as unknown as Database;
  const dir = path.join(dataDir(), 'database');
  mkdirSync(dir, { recursive: true });
  h.unlock = await lockFolder();
  const { client, notice: told } = await openOrRestore(dir);
  if (told) notice(told);
  h.client = client;
  h.stopCopies = copyNowAndThen(client);
  const database = drizzle(client, { schema });
  await migrate(database, { migrationsFolder: path.join(appDir(), 'src/server/database/migrations') });
  tidyOf(client);
  return database;
}

/** What SQL is given to as it is written, of the embedded database; opens it where it is not yet. */
export async function databaseClient(): Promise<PGlite> {
  await openDatabase();
  return holder().client!;
}

const before = () => shared('database-before-closing', () => new Set<() => Promise<void>>());

/** What goes on beside everything else ends before the database closes: it would open it again. */
export const beforeClosing = (end: () => Promise<void>): void => void before().add(end);

export async function closeDatabase(): Promise<void> {
  const h = holder();
  for (const end of before()) await end();
  before().clear();
  h.stopCopies?.();
  tidyOf(null);
  await tidied();
  await h.client?.close();
  await closePostgres();
  await h.unlock?.();
  Object.assign(h, { opening: null, client: null, unlock: null, stopCopies: null });
}
