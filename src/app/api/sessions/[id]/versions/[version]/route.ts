import { json, route } from '@/server/http';
import { compareVersion, removeVersion, restoreVersion } from '@/server/sessions';

type Params = { id: string; version: string };

/** What changed since, in words; `?to=` compares with another version. */
export const GET = route<Params>(async (request, { id, version }) =>
  json({ changes: await compareVersion(id, version, new URL(request.url).searchParams.get('to') ?? undefined) }),
);

/** Goes back to it. */
export const POST = route<Params>(async (_request, { id, version }) => json(await restoreVersion(id, version)));

/** Removes a version; the session itself stays as it is. */
export const DELETE = route<Params>(async (_request, { id, version }) => {
  await removeVersion(id, version);
  return json({});
});
