// A house with several processes: the same schema on a PostgreSQL of its own, named by DATABASE_URL.
import path from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { Client, Pool, type PoolClient } from 'pg';
import { appDir } from '../config';
import { log } from '../log';
import { shared } from '../shared';
import * as schema from './schema';

/** Address of the database; null: the embedded one, which this process has for itself. */
export const databaseUrl = (): string | null => process.env.DATABASE_URL || null;

/** Whether no other process works on the same sessions: what was read last is then still so. */
export const alone = (): boolean => databaseUrl() === null;

const POOL = 20;
/** Connections that hold a lock while somebody's turn lasts; turns stand within turns, so there are more. */
const TURNS = 60;

interface Pools {
  pool: Pool | null;
  turns: Pool | null;
  listening: Client | null;
}
const pools = () => shared('postgres', (): Pools => ({ pool: null, turns: null, listening: null }));

function made(connectionString: string, max: number): Pool {
  const pool = new Pool({ connectionString, max });
  // A server that goes away is told by the query that needs it; an idle connection must not end the process.
  pool.on('error', (error) => log.warn(error, 'a connection to the database ended'));
  return pool;
}

/** Number of the lock under which migrations run: of several processes that start at once one does it. */
const MIGRATIONS = 4_610_001;

/** Opens it and brings it to the present schema. */
export async function openPostgres(url: string) {
  const p = pools();
  p.pool ??= made(url, POOL);
  p.turns ??= made(url, TURNS);
  const client = await p.pool.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATIONS]);
    await migrate(drizzle(client, { schema }), {
      migrationsFolder: path.join(appDir(), 'src/server/database/migrations'),
    });
  } finally {
    await client.query('select pg_advisory_unlock($1)', [MIGRATIONS]);
    client.release();
  }
  return drizzle(p.pool, { schema });
}

/** Works while no other process works under the same name. */
export async function lockedAmongAll<T>(name: string, work: () => Promise<T>): Promise<T> {
  const client: PoolClient = await pools().turns!.connect();
  let broken: Error | undefined;
  try {
    await client.query('select pg_advisory_lock(hashtextextended($1, 0))', [name]);
    return await work();
  } finally {
    await client
      .query('select pg_advisory_unlock(hashtextextended($1, 0))', [name])
      .catch((error: unknown) => (broken = error as Error));
    // One whose lock could not be given back is closed: that gives it back.
    client.release(broken);
  }
}

const CHANNEL = 'wide_room';
/** Time until a connection that was lost is tried anew (ms). */
const AGAIN = 1000;

/** Tells all other processes. At most 8000 bytes go (PostgreSQL, NOTIFY). */
export async function notifyAll(text: string): Promise<void> {
  await pools().pool?.query('select pg_notify($1, $2)', [CHANNEL, text]);
}

/** Hears what others tell, and after each (re)connection `fresh`: what was told meanwhile was missed. */
export async function listenToAll(url: string, heard: (text: string) => void, fresh: () => void): Promise<void> {
  const p = pools();
  const client = new Client({ connectionString: url });
  p.listening = client;
  const lost = () => {
    if (p.listening !== client) return;
    setTimeout(() => void listenToAll(url, heard, fresh).catch(lost), AGAIN).unref();
  };
  client.on('notification', ({ payload }) => payload && heard(payload));
  client.on('error', (error) => log.warn(error, 'the connection that hears of other servers ended'));
  client.on('end', lost);
  await client.connect();
  await client.query(`listen ${CHANNEL}`);
  fresh();
}

export async function closePostgres(): Promise<void> {
  const p = pools();
  const { pool, turns, listening } = p;
  Object.assign(p, { pool: null, turns: null, listening: null });
  await listening?.end();
  await Promise.all([pool?.end(), turns?.end()]);
}
