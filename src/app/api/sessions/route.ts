import { NewSession, newSession } from '@/core/session';
import { asked, json, route, told } from '@/server/http';
import { createSession, listSessions } from '@/server/sessions';
import { sessionFromTemplate } from '@/server/templates';

export const dynamic = 'force-dynamic';

/** All sessions, the latest first. */
export const GET = route(async () => json(await listSessions()));

/**
 * Makes a session. From a template it takes a while: asked for lines (application/x-ndjson), it tells how far it is, and
 * in the last of them the session, or why there is none.
 */
export const POST = route(async (request) => {
  const wanted = await asked(request, NewSession, 'New session');
  wanted.check();
  const { template } = wanted;
  if (!template) return json({ id: await createSession(newSession(wanted.name, wanted.code, wanted.format())) }, 201);
  if (request.headers.get('accept') !== 'application/x-ndjson')
    return json({ id: await sessionFromTemplate(template, wanted) }, 201);
  return told(request, async (tell, signal) => ({ id: await sessionFromTemplate(template, wanted, tell, signal) }));
});
