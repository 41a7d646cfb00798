import { json, route } from '@/server/http';
import { diskFree, missingFiles } from '@/server/media';

export const dynamic = 'force-dynamic';

/** Bytes that the disk still takes; with `?session=`, files of that session that are missing, too. */
export const GET = route(async (request) => {
  const session = new URL(request.url).searchParams.get('session');
  return json({ free: await diskFree(session), missing: session ? await missingFiles(session) : [] });
});
