import { json, route } from '@/server/http';
import { recordingFacts } from '@/server/recordings';

/** How much of a recording is safe, and what was noticed. */
export const GET = route<{ id: string }>(async (_request, { id }) => json(await recordingFacts(id)));
