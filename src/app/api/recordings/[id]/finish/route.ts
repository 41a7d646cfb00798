import { body, json, Refused, route } from '@/server/http';
import { finishRecording } from '@/server/recordings';

export const POST = route<{ id: string }>(async (request, { id }) => {
  const { frames } = (await body(request)) as { frames?: unknown };
  if (!Number.isSafeInteger(frames) || (frames as number) < 1)
    throw new Refused(400, 'frames must be the number of frames that were recorded.');
  return json(await finishRecording(id, frames as number));
});
