import { body, json, Refused, route } from '@/server/http';
import { beginRecording, recordingsAside, type NewRecording } from '@/server/recordings';

export const POST = route<{ id: string }>(async (request, { id }) => {
  const asked = (await body(request)) as Partial<NewRecording>;
  if (
    !asked.id ||
    !/^[\w-]{8,40}$/.test(asked.id) ||
    typeof asked.track !== 'string' ||
    !Number.isSafeInteger(asked.start) ||
    !Array.isArray(asked.chains)
  ) {
    throw new Refused(400, 'A recording needs "id", "track", "start" (samples) and "chains"; none was begun.');
  }
  return json(await beginRecording(id, asked as NewRecording), 201);
});

/** Recordings that could not be entered, with the reason. */
export const GET = route<{ id: string }>(async (_request, { id }) => json(await recordingsAside(id)));
