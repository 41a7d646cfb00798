import { json, route } from '@/server/http';
import { recordingFacts } from '@/server/recordings';

export const GET = route<{ id: string }>(async (_request, { id }) => json(await recordingFacts(id)));
