import { json, route } from '@/server/http';
import { pictureSound } from '@/server/media';
import { openSession } from '@/server/sessions';

/** Brings the sound of a picture in, as a file of the session. */
export const POST = route<{ id: string; file: string }>(async (_, { id, file }) => {
  const taken = await pictureSound(id, file, (await openSession(id)).doc.format);
  return json(taken, 'asked' in taken ? 202 : 201);
});
