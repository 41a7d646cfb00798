import { json, Refused, route } from '@/server/http';
import { importAsking } from '@/server/media';
import { openSession } from '@/server/sessions';

/** Takes a file in; its name comes in the query. One at another rate waits for an answer (202). */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { doc } = await openSession(id);
  const name = new URL(request.url).searchParams.get('name') ?? 'file.wav';
  if (!request.body) throw new Refused(400, 'The request holds no file.');
  const taken = await importAsking(id, name, request.body, doc.format);
  return json(taken, 'asked' in taken ? 202 : 201);
});
