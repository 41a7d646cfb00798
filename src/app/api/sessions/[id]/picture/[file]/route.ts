import { json, route } from '@/server/http';
import { pieceOf } from '@/server/http/piece';
import { pictureFile, removePicture } from '@/server/media';

type Params = { id: string; file: string };

/** A picture, or the range of it that is asked for. */
export const GET = route<Params>(async (request, { id, file }) => {
  const range = request.headers.get('range');
  return pieceOf(await pictureFile(id, file, range), range !== null);
});

/** Takes away a picture that no browser could play. */
export const DELETE = route<Params>(async (_, { id, file }) => {
  await removePicture(id, file);
  return json({});
});
