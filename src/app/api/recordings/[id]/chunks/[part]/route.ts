import { json, Refused, route } from '@/server/http';
import { writeChunk } from '@/server/recordings';

const MOST_BYTES = 16 * 1024 * 1024;

/** PUT ?offset=bytes with raw samples in the session's format. */
export const PUT = route<{ id: string; part: string }>(async (request, { id, part }) => {
  const offset = new URL(request.url).searchParams.get('offset');
  if (offset === null || !/^\d+$/.test(offset))
    throw new Refused(400, 'A chunk needs its offset in bytes; nothing was written.');
  const bytes = new Uint8Array(await request.arrayBuffer());
  if (bytes.length > MOST_BYTES)
    throw new Refused(413, `A chunk may hold ${MOST_BYTES} bytes at most; nothing was written.`);
  return json(await writeChunk(id, part, Number(offset), bytes));
});
