import { createWriteStream } from 'node:fs';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { inScratch } from '../scratch';
import { Refused } from './refused';

/** Stores the body of a request as a file for as long as `work` takes. Throws Refused where there is none. */
export async function uploaded<T>(request: Request, work: (file: string) => Promise<T>): Promise<T> {
  const { body } = request;
  if (!body) throw new Refused(400, 'The request holds no file.');
  return inScratch(async (dir) => {
    const file = path.join(dir, 'upload');
    await pipeline(Readable.fromWeb(body as import('node:stream/web').ReadableStream), createWriteStream(file));
    return work(file);
  });
}
