import { KeepVersion } from '@/core/wire';
import { asked, json, route } from '@/server/http';
import { keepVersion, listVersions } from '@/server/sessions';

/** Versions that were kept by a name. */
export const GET = route<{ id: string }>(async (_request, { id }) => json(await listVersions(id)));

/** Keeps the session as it is now by a name. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { name } = await asked(request, KeepVersion, 'version');
  return json(await keepVersion(id, name), 201);
});
