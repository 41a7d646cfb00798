// Where things lie that nobody is to find: uploads on their way in, archives while they are unpacked.
import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readdir, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { dataDir } from './config';
import { alone } from './database/postgres';

const scratchDir = (): string => path.join(dataDir(), 'scratch');

/**
 * Gives `work` a folder of its own, and removes it afterwards, whatever happens. It lies in the data folder, so that what a
 * killed server leaves is cleared at the next start; without a data folder (a command), among the system's.
 */
export async function inScratch<T>(work: (dir: string) => Promise<T>): Promise<T> {
  const dir = await scratchFolder();
  try {
    return await work(dir);
  } finally {
    await rm(dir, { recursive: true, force: true });
  }
}

/** The same for what stays longer than a function: whoever asks removes it, or the next start does. */
export async function scratchFolder(): Promise<string> {
  if (!existsSync(dataDir())) return mkdtemp(path.join(tmpdir(), 'wide-room-'));
  await mkdir(scratchDir(), { recursive: true });
  return mkdtemp(path.join(scratchDir(), 'w-'));
}

/** Beside other processes only what is older than this belongs to nobody any more (ms). */
const OLD = 24 * 3600_000;

/** Whether a path was last changed so long ago that nobody works on it. */
export const isOld = async (path: string): Promise<boolean> => (await stat(path)).mtimeMs < Date.now() - OLD;

/** At the start, before anything is answered: nothing in it belongs to anybody any more. */
export async function clearScratch(): Promise<void> {
  if (alone()) return rm(scratchDir(), { recursive: true, force: true });
  for (const name of await readdir(scratchDir()).catch(() => [])) {
    const dir = path.join(scratchDir(), name);
    if (await isOld(dir).catch(() => false)) await rm(dir, { recursive: true, force: true });
  }
}
