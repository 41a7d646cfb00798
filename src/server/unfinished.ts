// Folders that are being made. A server that is killed meanwhile leaves them half full; the mark in them says so.
import { existsSync } from 'node:fs';
import { mkdir, readdir, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { dataDir } from './config';
import { alone, db, tables } from './database';
import { log } from './log';
import { isOld } from './scratch';

const MARK = '.unfinished';
/** What arrives in a media folder has such a name until it is whole. */
const PART = /^\..*\.part/;

/** Makes a folder step by step: what `work` throws, and a killed server, leave nothing of it. */
export async function making<T>(dir: string, work: () => Promise<T>): Promise<T> {
  await mkdir(dir, { recursive: true });
  await writeFile(path.join(dir, MARK), '');
  try {
    const made = await work();
    await rm(path.join(dir, MARK), { force: true });
    return made;
  } catch (error) {
    await rm(dir, { recursive: true, force: true });
    throw error;
  }
}

/**
 * At the start: removes folders that were never finished, and parts of files that never arrived. A folder that the
 * database knows was finished; only its mark is taken away.
 */
export async function clearUnfinished(): Promise<void> {
  const known = new Set(
    [
      ...(await (await db()).select({ id: tables.sessions.id }).from(tables.sessions)),
      ...(await (await db()).select({ id: tables.templates.id }).from(tables.templates)),
    ].map((r) => r.id),
  );
  for (const kind of ['sessions', 'templates'])
    for (const id of await namesIn(path.join(dataDir(), kind))) {
      const dir = path.join(dataDir(), kind, id);
      const nobodys = async (file: string) => alone() || (await isOld(file).catch(() => false));
      if (existsSync(path.join(dir, MARK)) && (await nobodys(path.join(dir, MARK)))) {
        if (!known.has(id)) log.warn({ dir }, 'was never finished, and is removed');
        await rm(known.has(id) ? path.join(dir, MARK) : dir, { recursive: true, force: true });
      }
      const media = path.join(dir, 'media');
      for (const name of await namesIn(media))
        if (PART.test(name) && (await nobodys(path.join(media, name))))
          await rm(path.join(media, name), { force: true });
    }
}

const namesIn = (dir: string): Promise<string[]> => readdir(dir).catch(() => []);
