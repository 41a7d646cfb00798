import type { DirectHandler } from '../http';
import { json, Refused } from '../http';
import { writeChunk } from './recordings';

const MOST_BYTES = 16 * 1024 * 1024;

/** Where a chunk is sent to: 64 lines are 18 MB a second, too much for the way that other requests take. */
export const CHUNK_WAY = /^\/api\/recordings\/(?<id>[^/]+)\/chunks\/(?<part>[^/]+)$/;

/** Takes samples at `offset` bytes; `crc`: their CRC-32. */
export const takeChunk: DirectHandler<{ id: string; part: string }> = async (asked, { id, part }, body) => {
  const offset = asked.get('offset');
  const crc = asked.get('crc');
  if (crc !== null && !/^\d+$/.test(crc))
    throw new Refused(400, 'crc must be the CRC-32 of the chunk; nothing was written.');
  if (offset === null || !/^\d+$/.test(offset))
    throw new Refused(400, 'A chunk needs its offset in bytes; nothing was written.');
  const bytes = await body(MOST_BYTES, `A chunk may hold ${MOST_BYTES} bytes at most; nothing was written.`);
  return json(await writeChunk(id, part, Number(offset), bytes, crc === null ? undefined : Number(crc)));
};
