import { json, route } from '@/server/http';
import { notices } from '@/server/notices';

export const dynamic = 'force-dynamic';

export const GET = route(async () => json(notices()));
