import { Readable } from 'node:stream';
import { rawArchive, readWish } from '@/server/handover';
import { binary, route } from '@/server/http';
import { openSession } from '@/server/sessions';

/** Raw tracks for another engineer, as one archive. */
export const GET = route<{ id: string }>(async (request, { id }) => {
  const wish = readWish(new URL(request.url).searchParams);
  await openSession(id);
  const { name, stream, done } = await rawArchive(id, wish);
  // What was made for it goes once it is on its way, or nobody waits for it any more.
  (stream as Readable).once('close', () => void done());
  return binary(Readable.toWeb(stream as Readable) as ReadableStream, 'application/zip', {
    'Content-Disposition': `attachment; filename="${name}"`,
  });
});
