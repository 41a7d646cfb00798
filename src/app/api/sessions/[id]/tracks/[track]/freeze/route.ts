import { json, route } from '@/server/http';
import { frozenFile } from '@/server/media';
import { openSession } from '@/server/sessions';

/** Makes the file of a track's sound behind its chain; answers with what the edit that freezes the track takes. */
export const POST = route<{ id: string; track: string }>(async (_request, { id, track }) =>
  json(await frozenFile(id, (await openSession(id)).doc, track), 201),
);
