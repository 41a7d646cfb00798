import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';

/** Read at a time (bytes). */
const PIECE = 1 << 18;

/** SHA-256 of a file, in hexadecimal; of several as if they were one. */
export async function sha256(...files: string[]): Promise<string> {
  const hash = createHash('sha256');
  for (const file of files)
    for await (const piece of createReadStream(file, { highWaterMark: PIECE })) hash.update(piece as Buffer);
  return hash.digest('hex');
}
