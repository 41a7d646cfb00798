import { json, route } from '@/server/http';
import { dismissNotice } from '@/server/notices';

export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  dismissNotice(id);
  return json({ gone: id });
});
