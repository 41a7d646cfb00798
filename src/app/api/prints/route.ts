import { factsJson, route } from '@/server/http';
import { openPrints } from '@/server/prints';

/** The line of prints of all sessions. */
export const GET = route(async () => factsJson(await openPrints()));
