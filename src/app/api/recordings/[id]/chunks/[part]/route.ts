import { bytesOf, route } from '@/server/http';
import { takeChunk } from '@/server/recordings';

/** PUT ?offset=bytes&crc=CRC-32 with raw samples in the format that the recording began with. */
export const PUT = route<{ id: string; part: string }>((request, params) =>
  takeChunk(new URL(request.url).searchParams, params, (most, why) => bytesOf(request, most, why)),
);
