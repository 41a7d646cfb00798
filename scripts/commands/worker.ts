import { closeDatabase, databaseUrl, openDatabase } from '@/server/database';
import { closePrints, printWorker, resumePrints } from '@/server/prints';
import { followOthers } from '@/server/sessions';

/** Makes prints of the line that several servers share, until it is stopped. */
export async function worker(): Promise<void> {
  if (!databaseUrl())
    throw new Error('A worker needs the database that it shares with the servers: set DATABASE_URL to its address.');
  await openDatabase();
  await followOthers();
  await resumePrints();
  console.log(`Waiting for prints as ${printWorker()}.`);
  await new Promise<void>((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => resolve());
  });
  await closePrints();
  await closeDatabase();
  process.exit(0);
}
