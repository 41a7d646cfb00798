import { json, route } from '@/server/http';
import { sessionFiles } from '@/server/media';

export const GET = route<{ id: string }>(async (_request, { id }) => json(await sessionFiles(id)));
