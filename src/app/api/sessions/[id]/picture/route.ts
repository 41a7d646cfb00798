import { json, Refused, route } from '@/server/http';
import { takePicture } from '@/server/media';

/** ?name=FILE with a picture file: it is kept, and shown from the session's start on. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const name = new URL(request.url).searchParams.get('name');
  if (!name || !request.body) throw new Refused(400, 'Send the file as the body, and its name as ?name=.');
  return json(await takePicture(id, name, request.body), 201);
});
