import { readFileSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import { PGlite } from '@electric-sql/pglite';

// Opens a copy of the database in memory and reads every session in it: whether it could be used.
const client = new PGlite({ loadDataDir: new Blob([readFileSync(workerData as string)]) });
client.waitReady
  .then(() => client.query('select count(*), sum(length(doc::text)) from sessions'))
  .then(
    () => parentPort!.postMessage(true),
    () => parentPort!.postMessage(false),
  )
  .finally(() => process.exit(0));
