import { statfs } from 'node:fs/promises';
import { dataDir, mediaPath } from '../config';

/** Bytes that the disk still takes on which a session's files lie (a folder of it may be on a disk of its own). */
export async function diskFree(session: string | null): Promise<number> {
  const { bavail, bsize } = await statfs(session ? mediaPath(session, '') : dataDir());
  return bavail * bsize;
}
