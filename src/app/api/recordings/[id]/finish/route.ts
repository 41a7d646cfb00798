import { body, json, Refused, route } from '@/server/http';
import { finishRecording } from '@/server/recordings';

export const POST = route<{ id: string }>(async (request, { id }) => {
  const { frames, shownEnd } = (await body(request)) as { frames?: unknown; shownEnd?: unknown };
  if (!Number.isSafeInteger(frames) || (frames as number) < 1)
    throw new Refused(400, 'frames must be the number of frames that were recorded.');
  if (shownEnd !== undefined && !Number.isSafeInteger(shownEnd))
    throw new Refused(400, 'shownEnd must be a sample of the timeline.');
  return json(await finishRecording(id, frames as number, shownEnd as number | undefined));
});
