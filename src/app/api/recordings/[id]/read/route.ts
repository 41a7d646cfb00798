import { json, route } from '@/server/http';
import { noteRead } from '@/server/recordings';

/** Somebody has read that this recording was set aside; its files stay. */
export const POST = route<{ id: string }>(async (_request, { id }) => {
  await noteRead(id);
  return json({ id });
});
