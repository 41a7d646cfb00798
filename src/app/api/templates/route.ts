import { KeepTemplate } from '@/core/wire';
import { asked, json, route, uploaded } from '@/server/http';
import { importTemplate, keepTemplate, listTemplates } from '@/server/templates';

export const dynamic = 'force-dynamic';

/** All templates. */
export const GET = route(async () => json(await listTemplates()));

/** Keeps a session as a template. */
export const POST = route(async (request) => {
  const { session, name, category, media } = await asked(request, KeepTemplate, 'template');
  const made = await keepTemplate(session, { name, category: category ?? '', media: media ?? false });
  return json(made, 201);
});

/** Takes a template file in. */
export const PUT = route(async (request) => json(await uploaded(request, importTemplate), 201));
