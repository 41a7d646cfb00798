import { route } from '@/server/http';
import { pieceOf } from '@/server/http/piece';
import { sharedPicture } from '@/server/sharing';

/** The picture that the performer sees, or the range of it that is asked for. */
export const GET = route<{ token: string }>(async (request, { token }) => {
  const range = request.headers.get('range');
  return pieceOf(await sharedPicture(token, range), range !== null);
});
