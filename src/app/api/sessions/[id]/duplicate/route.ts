import { duplicateSession } from '@/server/archives';
import { body, json, Refused, route } from '@/server/http';

/** The session once more under another name. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { name } = ((await body(request)) ?? {}) as { name?: unknown };
  if (typeof name !== 'string') throw new Refused(400, 'A duplicate needs a name.');
  return json(await duplicateSession(id, name), 201);
});
