import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Worker } from 'node:worker_threads';
import { appDir } from '../config';
import { Refused } from '../http';
import type { Verified } from './verify';

type Answer = { found: Verified[] } | { error: string; status: number };

/** Proves an archive that somebody brings; nothing of it is kept. */
export async function verifyUpload(body: ReadableStream<Uint8Array>): Promise<Verified[]> {
  const dir = await mkdtemp(path.join(tmpdir(), 'wide-room-proof-'));
  try {
    const place = path.join(dir, 'print.zip');
    await pipeline(Readable.fromWeb(body as import('node:stream/web').ReadableStream), createWriteStream(place));
    return await onThread(place);
  } finally {
    await rm(dir, { recursive: true, force: true });
  }
}

function onThread(place: string): Promise<Verified[]> {
  const { Worker: Thread } = process.getBuiltinModule('node:worker_threads');
  const worker: Worker = new Thread(path.join(appDir(), 'dist', 'workers', 'verify.mjs'), { workerData: { place } });
  return new Promise((resolve, reject) => {
    worker.on('message', (m: Answer) => ('error' in m ? reject(new Refused(m.status, m.error)) : resolve(m.found)));
    worker.on('error', reject);
    worker.on('exit', () => reject(new Error('The proof ended unexpectedly.')));
  });
}
