import { BeginRecording } from '@/core/wire';
import { asked, json, route } from '@/server/http';
import { beginRecording, recordingsAside } from '@/server/recordings';

/** Begins a take: its files are made, and it is entered as rolling. */
export const POST = route<{ id: string }>(async (request, { id }) =>
  json(await beginRecording(id, await asked(request, BeginRecording, 'a recording')), 201),
);

/** Recordings that could not be entered, with the reason. */
export const GET = route<{ id: string }>(async (_request, { id }) => json(await recordingsAside(id)));
