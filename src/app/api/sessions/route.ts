import { NewSession, newSession, readAs } from '@/core/session';
import { body, json, route } from '@/server/http';
import { createSession, listSessions } from '@/server/sessions';
import { sessionFromTemplate } from '@/server/templates';

export const dynamic = 'force-dynamic';

export const GET = route(async () => json(await listSessions()));

export const POST = route(async (request) => {
  const asked = readAs(NewSession, await body(request), 'New session');
  asked.check();
  const id = asked.template
    ? await sessionFromTemplate(asked.template, asked)
    : await createSession(newSession(asked.name, asked.code, asked.format()));
  return json({ id }, 201);
});
