import { duplicateSession } from '@/server/archives';
import { Duplicate } from '@/core/wire';
import { asked, json, route } from '@/server/http';

/** The session once more under another name. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { name } = await asked(request, Duplicate, 'duplicate');
  return json(await duplicateSession(id, name), 201);
});
