import 'reflect-metadata';
import { closeDatabase, openDatabase } from './database';
import { answerDirectly } from './http';
import { answerTo } from './http/causes';
import { log } from './log';
import { closePrints, resumePrints } from './prints';
import { followOthers, keepBin } from './sessions';
import { clearScratch } from './scratch';
import { clearUnfinished } from './unfinished';
import { sumRest } from './media';
import { CHUNK_WAY, followTakes, recoverRecordings, takeChunk } from './recordings';

/** Opens the database and mends what a crash left. Without a database the process ends: half a server helps nobody. */
export async function start(): Promise<void> {
  try {
    await openDatabase();
    await clearScratch();
  } catch (error) {
    log.fatal(error);
    process.stderr.write(`Wide Room cannot start: ${answerTo(error)?.body.message ?? (error as Error).message}\n`);
    process.exit(1);
  }
  await beside('what other servers tell', followOthers);
  // Before anything is made anew.
  await beside('what was never finished', clearUnfinished);
  // One broken recording or print must not keep everybody from their work: each is set aside by itself.
  await beside('prints that wait or were cut off', resumePrints);
  await beside('what was in the bin for long', keepBin);
  await beside('notes in the files of takes', () => Promise.resolve(followTakes()));
  await beside('recordings that were cut off', recoverRecordings);
  await beside('checksums that were not taken', sumRest);
  answerDirectly('PUT', CHUNK_WAY, takeChunk);
  for (const signal of ['SIGTERM', 'SIGINT'] as const) {
    process.once(
      signal,
      () =>
        void closePrints()
          .catch(() => {})
          .then(closeDatabase)
          .finally(() => process.exit(0)),
    );
  }
}

async function beside(what: string, work: () => Promise<unknown>): Promise<void> {
  try {
    await work();
  } catch (error) {
    log.error({ what, error }, 'not done at this start; the server works without it');
  }
}
