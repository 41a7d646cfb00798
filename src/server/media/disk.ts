import { statfs } from 'node:fs/promises';
import { dataDir } from '../config';

/** Bytes that the disk with the sessions still takes. */
export async function diskFree(): Promise<number> {
  const { bavail, bsize } = await statfs(dataDir());
  return bavail * bsize;
}
