import { json, route } from '@/server/http';
import { removeSession, restoreSession } from '@/server/sessions';

type Params = { id: string };

/** Puts a session into the bin. */
export const POST = route<Params>(async (_request, { id }) => {
  await removeSession(id);
  return json({});
});

/** Takes it out again. */
export const DELETE = route<Params>(async (_request, { id }) => {
  await restoreSession(id);
  return json({});
});
