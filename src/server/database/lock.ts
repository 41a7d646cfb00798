// One program at a time works on a data folder.
import { accessSync, constants, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import lockfile from 'proper-lockfile';
import { dataDir } from '../config';

const STALE_MS = 20_000;
/** A process that did nothing for so long may have lost its lock meanwhile (ms). */
const HELD_UP_MS = 5_000;

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

/** When this process last was awake; none: it holds no lock. */
let awake: { at: number; timer: ReturnType<typeof setInterval> } | null = null;

/** Ends the process at once: another one works on the folder, and whatever this one wrote would damage it. */
function lost(): never {
  process.stderr.write(
    `Wide Room was stopped for so long that another one took over the data folder ${dataDir()}. This one ends; nothing was changed by it since.\n`,
  );
  process.exit(70);
}

/**
 * Asked before every query. A process that was stopped (a laptop that slept, a debugger) goes on as if nothing had been;
 * it looks first whether the folder is still its own.
 */
export function stillHolder(): void {
  if (!awake || Date.now() - awake.at < HELD_UP_MS) return;
  awake.at = Date.now();
  let holder = 0;
  try {
    holder = Number(readFileSync(holderPath(), 'utf8'));
  } catch {
    // Without the file nobody holds it any more.
  }
  if (holder !== process.pid) lost();
}

/** Throws what the system says where a folder cannot be written. */
function writable(dir: string): void {
  mkdirSync(dir, { recursive: true });
  accessSync(dir, constants.R_OK | constants.W_OK);
}

/** Takes the lock on the data folder; returns what gives it back. Throws DataFolderBusy. */
export async function lockFolder(): Promise<() => Promise<void>> {
  writable(dataDir());
  forgetDeadHolder();
  try {
    const unlock = await lockfile.lock(dataDir(), {
      lockfilePath: lockPath(),
      stale: STALE_MS,
      // The one that leaves may need a moment.
      retries: { retries: 4, minTimeout: 500, maxTimeout: 500 },
      onCompromised: lost,
    });
    writeFileSync(holderPath(), String(process.pid));
    awake = { at: Date.now(), timer: setInterval(() => awake && (awake.at = Date.now()), 1000) };
    awake.timer.unref();
    return async () => {
      if (awake) clearInterval(awake.timer);
      awake = null;
      await unlock();
    };
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ELOCKED') throw error;
    throw new DataFolderBusy(
      `The data folder ${dataDir()} is in use by another Wide Room. Stop that one, or choose another folder with WIDE_ROOM_DATA.`,
    );
  }
}
