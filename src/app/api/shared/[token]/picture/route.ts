import { route } from '@/server/http';
import { pieceOf } from '@/server/http/piece';
import { sharedPicture } from '@/server/sharing';

export const GET = route<{ token: string }>(async (request, { token }) => {
  const range = request.headers.get('range');
  return pieceOf(await sharedPicture(token, range), range !== null);
});
