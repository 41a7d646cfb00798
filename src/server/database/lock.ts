// One program at a time works on a data folder.
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import lockfile from 'proper-lockfile';
import { dataDir } from '../config';

const STALE_MS = 20_000;

/** The data folder is used by another process. */
export class DataFolderBusy extends Error {}

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

/** Takes the lock on the data folder; returns what gives it back. Throws DataFolderBusy. */
export async function lockFolder(): Promise<() => Promise<void>> {
  mkdirSync(dataDir(), { recursive: true });
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
