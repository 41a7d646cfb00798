import { json, route } from '@/server/http';
import { removeLayout } from '@/server/rooms';

export const DELETE = route<{ name: string }>(async (_request, { name }) => {
  await removeLayout(decodeURIComponent(name));
  return json({});
});
