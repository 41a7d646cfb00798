import { createWriteStream } from 'node:fs';
import { unlink } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { nanoid } from 'nanoid';
import { KeepTemplate } from '@/core/wire';
import { asked, json, Refused, route } from '@/server/http';
import { importTemplate, keepTemplate, listTemplates } from '@/server/templates';

export const dynamic = 'force-dynamic';

export const GET = route(async () => json(await listTemplates()));

/** Keeps a session as a template. */
export const POST = route(async (request) => {
  const { session, name, category, media } = await asked(request, KeepTemplate, 'template');
  const made = await keepTemplate(session, { name, category: category ?? '', media: media ?? false });
  return json(made, 201);
});

/** Takes a template file in. */
export const PUT = route(async (request) => {
  if (!request.body) throw new Refused(400, 'The request holds no file.');
  const part = path.join(tmpdir(), `wide-room-${nanoid()}.zip`);
  try {
    await pipeline(Readable.fromWeb(request.body as import('node:stream/web').ReadableStream), createWriteStream(part));
    return json(await importTemplate(part), 201);
  } finally {
    await unlink(part).catch(() => {});
  }
});
