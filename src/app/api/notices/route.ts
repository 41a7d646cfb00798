import { json, route } from '@/server/http';
import { notices } from '@/server/notices';

export const dynamic = 'force-dynamic';

/** What happened while no window was open, and nobody has read yet. */
export const GET = route(async () => json(notices()));
