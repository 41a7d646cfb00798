import { json, route } from '@/server/http';
import { sessionDesk } from '@/server/sessions';

export const dynamic = 'force-dynamic';

/** All sessions of this machine, those in the bin too. */
export const GET = route(async () => json(await sessionDesk()));
