import { json, route } from '@/server/http';
import { freeUnused, unusedFiles } from '@/server/archives';
import { loadSession } from '@/server/sessions';

/** Files of a session that nothing of it uses any more. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
  await loadSession(id);
  return json(await unusedFiles(id));
});

/** Removes them. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  await loadSession(id);
  return json(await freeUnused(id));
});
