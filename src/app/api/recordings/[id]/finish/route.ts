import { FinishRecording } from '@/core/wire';
import { asked, json, route } from '@/server/http';
import { finishRecording } from '@/server/recordings';

/** Ends a recording: what was sent is compared with what was recorded, and the take is entered. */
export const POST = route<{ id: string }>(async (request, { id }) =>
  json(await finishRecording(id, await asked(request, FinishRecording, 'the end of a recording'))),
);
