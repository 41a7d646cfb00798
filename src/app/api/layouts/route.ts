import { KeepLayout } from '@/core/wire';
import { asked, json, route } from '@/server/http';
import { keepLayout, listLayouts } from '@/server/rooms';

export const dynamic = 'force-dynamic';

/** Layouts of one's own: by their ids, which hold all of them. */
export const GET = route(async () => json({ layouts: (await listLayouts()).map((l) => l.id) }));

/** Keeps a layout of one's own; it gets an id and can be used at once. */
export const POST = route(async (request) =>
  json({ id: (await keepLayout(await asked(request, KeepLayout, 'layout'))).id }, 201),
);
