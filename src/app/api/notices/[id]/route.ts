import { json, route } from '@/server/http';
import { dismissNotice } from '@/server/notices';

/** A notice was read. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  dismissNotice(id);
  return json({ gone: id });
});
