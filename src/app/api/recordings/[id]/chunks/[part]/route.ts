import { bytesOf, json, Refused, route } from '@/server/http';
import { writeChunk } from '@/server/recordings';

const MOST_BYTES = 16 * 1024 * 1024;

/** PUT ?offset=bytes&crc=CRC-32 with raw samples in the format that the recording began with. */
export const PUT = route<{ id: string; part: string }>(async (request, { id, part }) => {
  const asked = new URL(request.url).searchParams;
  const offset = asked.get('offset');
  const crc = asked.get('crc');
  if (crc !== null && !/^\d+$/.test(crc))
    throw new Refused(400, 'crc must be the CRC-32 of the chunk; nothing was written.');
  if (offset === null || !/^\d+$/.test(offset))
    throw new Refused(400, 'A chunk needs its offset in bytes; nothing was written.');
  const bytes = await bytesOf(
    request,
    MOST_BYTES,
    `A chunk may hold ${MOST_BYTES} bytes at most; nothing was written.`,
  );
  return json(await writeChunk(id, part, Number(offset), bytes, crc === null ? undefined : Number(crc)));
});
