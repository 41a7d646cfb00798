import { availableParallelism } from 'node:os';
import PgBoss from 'pg-boss';
import { alone, databaseClient, databaseUrl } from '../database';
import { log } from '../log';
import { shared } from '../shared';

const QUEUE = 'prints';
/** A print that takes longer than this is taken for dead (hours). */
const LONGEST = 23;
/** Looked at so often although nobody said that something came (s). */
const EVERY = 30;
/** The same where other processes put prints into the line (s). */
const EVERY_AMONG_OTHERS = 2;
/** A print that is put into line again and again is there once within this time (s). */
const ONCE_IN = 30;
/** One print uses the threads of a small machine; a larger one makes several at once. */
const AT_ONCE = Math.max(1, Math.floor(availableParallelism() / 4));

interface Queue {
  boss: PgBoss;
  /** Those who take what waits. */
  workers: string[];
}

const holder = () => shared('print-queue', () => ({ opening: null as Promise<Queue> | null }));

/** The line in which prints wait, in the database of the server. */
export async function openQueue(run: (print: string) => Promise<void>): Promise<void> {
  await (holder().opening ??= open(run));
}

async function embedded() {
  const client = await databaseClient();
  return {
    // Without values a text may hold several statements; with them it is one.
    executeSql: async (text: string, values?: unknown[]) => {
      if (values?.length) return client.query(text, values) as Promise<{ rows: unknown[] }>;
      const all = await client.exec(text);
      return { rows: all.findLast((r) => r.rows.length > 0)?.rows ?? [] };
    },
  };
}

async function open(run: (print: string) => Promise<void>): Promise<Queue> {
  const url = databaseUrl();
  const boss = new PgBoss({ schedule: false, ...(url ? { connectionString: url } : { db: await embedded() }) });
  boss.on('error', (error) => log.error(error, 'the line of prints'));
  await boss.start();
  await boss.createQueue(QUEUE, { name: QUEUE, policy: 'standard', retryLimit: 0, expireInHours: LONGEST });
  // What waited is known from the prints themselves, and put into line again; what others put there stays.
  if (alone()) await boss.purgeQueue(QUEUE);
  const workers: string[] = [];
  // One that only serves leaves the work to others.
  const most = process.env.WIDE_ROOM_PRINTS === '0' ? 0 : AT_ONCE;
  for (let i = 0; i < most; i++)
    workers.push(
      await boss.work<{ print: string }>(
        QUEUE,
        { batchSize: 1, pollingIntervalSeconds: alone() ? EVERY : EVERY_AMONG_OTHERS },
        async ([job]) => {
          if (job) await run(job.data.print);
          // The next one is not left waiting for the next look.
          workers.forEach((w) => boss.notifyWorker(w));
        },
      ),
    );
  return { boss, workers };
}

/** Puts a print at the end of the line. */
export async function enqueue(print: string): Promise<void> {
  const queue = await holder().opening;
  if (!queue) throw new Error('the line of prints is not open');
  await queue.boss.send(QUEUE, { print }, alone() ? {} : { singletonKey: print, singletonSeconds: ONCE_IN });
  queue.workers.forEach((w) => queue.boss.notifyWorker(w));
}

/** Ends taking from the line; what runs ends with the process. */
export async function closeQueue(): Promise<void> {
  const h = holder();
  const queue = await h.opening;
  h.opening = null;
  await queue?.boss.stop({ graceful: false, wait: false });
}
