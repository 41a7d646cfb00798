import { binary, Refused, route } from '@/server/http';
import { onThread, pathOfMedia, peaksOf } from '@/server/media';

/** Makes them where they are missing, so it is no GET. `?level=`: 0 (every 256 frames, the default), 1 (4096) or 2 (65536). */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const level = Number(new URL(request.url).searchParams.get('level') ?? 0);
  if (![0, 1, 2].includes(level)) throw new Refused(422, 'Peaks have the levels 0, 1 and 2.');
  return binary(await peaksOf(await pathOfMedia(id), level, (from) => onThread({ task: 'peaks', from })));
});
