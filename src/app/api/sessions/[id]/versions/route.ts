import { body, json, route } from '@/server/http';
import { keepVersion, listVersions } from '@/server/sessions';

export const GET = route<{ id: string }>(async (_request, { id }) => json(await listVersions(id)));

export const POST = route<{ id: string }>(async (request, { id }) => {
  const { name } = (await body(request)) as { name?: unknown };
  return json(await keepVersion(id, typeof name === 'string' ? name : ''), 201);
});
