import { json, route } from '@/server/http';
import { sessionFiles } from '@/server/media';
import { loadSession } from '@/server/sessions';

/** The files of a session, with what uses them. */
export const GET = route<{ id: string }>(async (_request, { id }) =>
  json(await sessionFiles((await loadSession(id)).id)),
);
