import { FinishRecording } from '@/core/wire';
import { asked, json, route } from '@/server/http';
import { finishRecording } from '@/server/recordings';

export const POST = route<{ id: string }>(async (request, { id }) =>
  json(await finishRecording(id, await asked(request, FinishRecording, 'the end of a recording'))),
);
