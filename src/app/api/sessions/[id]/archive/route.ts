import { Readable } from 'node:stream';
import { sessionArchive, sessionArchiveFacts } from '@/server/archives';
import { binary, json, route } from '@/server/http';

type Params = { id: string };

/** A whole session as one archive; with `history` every step of it. */
export const GET = route<Params>(async (request, { id }) => {
  const history = new URL(request.url).searchParams.has('history');
  const { name, stream } = await sessionArchive(id, history);
  return binary(Readable.toWeb(stream) as ReadableStream, 'application/zip', {
    'Content-Disposition': `attachment; filename="${name}"`,
  });
});

/** What the archive would hold, before it is made. */
export const POST = route<Params>(async (_request, { id }) => json(await sessionArchiveFacts(id)));
