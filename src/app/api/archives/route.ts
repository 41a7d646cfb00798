import { createWriteStream } from 'node:fs';
import { unlink } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { nanoid } from 'nanoid';
import { bringSession } from '@/server/archives';
import { json, Refused, route } from '@/server/http';

/** Takes a whole session in from its archive. */
export const POST = route(async (request) => {
  if (!request.body) throw new Refused(400, 'The request holds no file.');
  const part = path.join(tmpdir(), `wide-room-session-${nanoid()}.zip`);
  try {
    await pipeline(Readable.fromWeb(request.body as import('node:stream/web').ReadableStream), createWriteStream(part));
    return json(await bringSession(part), 201);
  } finally {
    await unlink(part).catch(() => {});
  }
});
