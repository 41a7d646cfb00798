import { Readable } from 'node:stream';
import { binary, route } from '@/server/http';
import { archive } from '@/server/prints';

/** All files of a print, its report and checksums as one ZIP. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
  const { name, stream } = await archive(id);
  return binary(Readable.toWeb(stream as Readable) as ReadableStream, 'application/zip', {
    'Content-Disposition': `attachment; filename="${name}"`,
  });
});
