import { json, route } from '@/server/http';
import { diskFree } from '@/server/media';

export const dynamic = 'force-dynamic';

export const GET = route(async (request) =>
  json({ free: await diskFree(new URL(request.url).searchParams.get('session')) }),
);
