import { constants } from 'node:fs';
import { copyFile, mkdir } from 'node:fs/promises';
import path from 'node:path';
import { nanoid } from 'nanoid';
import { makeSessionDir, sessionDir } from '../config';
import { Refused } from '../http';
import { making } from '../unfinished';
import { store } from './in';
import { contents } from './out';

/** A session once more under another name, with its files and versions, without its steps. Throws Refused where a file is missing. */
export async function duplicateSession(id: string, name: string): Promise<{ id: string; name: string }> {
  const text = name.trim();
  if (text.length < 1 || text.length > 80)
    throw new Refused(422, 'The name of a session has 1 to 80 letters. Nothing was duplicated.');
  const { about, entries } = await contents(id, false);
  if (about.missing.length > 0)
    throw new Refused(
      409,
      `${about.missing.join(', ')} is missing from the session's folder; bring it back in the list of files first. Nothing was duplicated.`,
    );
  const made = nanoid(10);
  return making(sessionDir(made), async () => {
    makeSessionDir(made);
    await mkdir(path.join(sessionDir(made), 'picture'), { recursive: true });
    // Where the file system can, both share what neither changes.
    for (const e of entries) await copyFile(e.file, path.join(sessionDir(made), e.name), constants.COPYFILE_FICLONE);
    return store(made, { ...about, session: { ...about.session, name: text } });
  });
}
