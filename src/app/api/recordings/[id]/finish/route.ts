import { body, json, Refused, route } from '@/server/http';
import { finishRecording, type Finish } from '@/server/recordings';

const isCount = (n: unknown, least: number): n is number => Number.isSafeInteger(n) && (n as number) >= least;

export const POST = route<{ id: string }>(async (request, { id }) => {
  const { frames, shownEnd, facts, sums, last } = (await body(request)) as Partial<Finish>;
  if (!isCount(frames, 1)) throw new Refused(400, 'frames must be the number of frames that were recorded.');
  if (shownEnd !== undefined && !Number.isSafeInteger(shownEnd))
    throw new Refused(400, 'shownEnd must be a sample of the timeline.');
  const given = sums ?? {};
  for (const sum of [given.processed, given.dry])
    if (sum !== undefined && !isCount(sum, 0)) throw new Refused(400, 'sums must be CRC-32 of both parts.');
  return json(await finishRecording(id, { frames, shownEnd, facts, sums: given, last: last === true }));
});
