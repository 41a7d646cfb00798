import { existsSync } from 'node:fs';
import { statfs } from 'node:fs/promises';
import path from 'node:path';
import { dataDir, sessionDir } from '../config';

/** Bytes that the disk still takes on which a session's recordings go; its media folder may be on a disk of its own. */
export async function diskFree(session: string | null): Promise<number> {
  const folders = session ? [path.join(sessionDir(session), 'media'), sessionDir(session)] : [];
  const { bavail, bsize } = await statfs(folders.find((f) => existsSync(f)) ?? dataDir());
  return bavail * bsize;
}
