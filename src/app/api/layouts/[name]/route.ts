import { json, route } from '@/server/http';
import { removeLayout } from '@/server/rooms';

/** Takes a layout of one's own from the list; sessions and rooms that have it keep it. */
export const DELETE = route<{ name: string }>(async (_request, { name }) => {
  await removeLayout(decodeURIComponent(name));
  return json({});
});
