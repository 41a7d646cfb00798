import { body, json, route } from '@/server/http';
import { importPresets, keepPreset, listPresets } from '@/server/presets';

export const dynamic = 'force-dynamic';

export const GET = route(async () => json({ format: 'wide-room-presets', version: 1, presets: await listPresets() }));

export const POST = route(async (request) => json(await keepPreset((await body(request)) as object), 201));

/** Takes an exported file in. */
export const PUT = route(async (request) => json(await importPresets(await body(request)), 201));
