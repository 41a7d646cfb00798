// Where things lie that nobody is to find: uploads on their way in, archives while they are unpacked.
import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { dataDir } from './config';

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

/** At the start, before anything is answered: nothing in it belongs to anybody any more. */
export const clearScratch = (): Promise<void> => rm(scratchDir(), { recursive: true, force: true });
