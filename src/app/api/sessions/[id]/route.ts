import { json, route } from '@/server/http';
import { openSession } from '@/server/sessions';

export const GET = route<{ id: string }>(async (_request, { id }) => json(await openSession(id)));
