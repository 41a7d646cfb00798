import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { onProofThread } from './proofThread';
import type { Verified } from './verify';

/** Proves an archive that somebody brings; nothing of it is kept. */
export async function verifyUpload(body: ReadableStream<Uint8Array>): Promise<Verified[]> {
  const dir = await mkdtemp(path.join(tmpdir(), 'wide-room-proof-'));
  try {
    const place = path.join(dir, 'print.zip');
    await pipeline(Readable.fromWeb(body as import('node:stream/web').ReadableStream), createWriteStream(place));
    return await onProofThread<Verified[]>({ kind: 'verify', place });
  } finally {
    await rm(dir, { recursive: true, force: true });
  }
}
