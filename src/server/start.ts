import 'reflect-metadata';
import { closeDatabase, openDatabase } from './database';
import { log } from './log';
import { endBrokenPrints } from './prints';
import { followTakes, recoverRecordings } from './recordings';

/** Opens the database and mends what a crash left. A failure ends the process: half a server helps nobody. */
export async function start(): Promise<void> {
  try {
    await openDatabase();
    await endBrokenPrints();
    followTakes();
    await recoverRecordings();
  } catch (error) {
    log.fatal(error);
    process.stderr.write(`Wide Room cannot start: ${(error as Error).message}\n`);
    process.exit(1);
  }
  for (const signal of ['SIGTERM', 'SIGINT'] as const) {
    process.once(signal, () => void closeDatabase().finally(() => process.exit(0)));
  }
}
