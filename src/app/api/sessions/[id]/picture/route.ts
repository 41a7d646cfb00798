import { json, Refused, route } from '@/server/http';
import { takePicture } from '@/server/media';

export const POST = route<{ id: string }>(async (request, { id }) => {
  const name = new URL(request.url).searchParams.get('name');
  if (!name || !request.body) throw new Refused(400, 'Send the file as the body, and its name as ?name=.');
  return json(await takePicture(id, name, request.body), 201);
});
