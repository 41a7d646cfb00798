import { json, Refused, route } from '@/server/http';
import { importFile } from '@/server/media';
import { openSession } from '@/server/sessions';

/** Takes a file in; its name comes in the query. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { doc } = await openSession(id);
  const name = new URL(request.url).searchParams.get('name') ?? 'file.wav';
  if (!request.body) throw new Refused(400, 'The request holds no file.');
  return json(await importFile(id, name, request.body, doc.format), 201);
});
