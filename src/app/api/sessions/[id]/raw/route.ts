import { Readable } from 'node:stream';
import { makeRaw, rawArchive, readWish } from '@/server/handover';
import { binary, body, json, route } from '@/server/http';
import { openSession } from '@/server/sessions';

/** Makes raw tracks for another engineer; answers with what fetches them. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const wish = readWish(await body(request));
  await openSession(id);
  return json(await makeRaw(id, wish), 201);
});

/** The archive that was made. */
export const GET = route<{ id: string }>(async (request) => {
  const { name, stream } = await rawArchive(new URL(request.url).searchParams.get('token') ?? '');
  return binary(Readable.toWeb(stream) as ReadableStream, 'application/zip', {
    'Content-Disposition': `attachment; filename="${name}"`,
  });
});
