import { readAs } from '@/core/session';
import { KeepPreset } from '@/core/wire';
import { body, json, route } from '@/server/http';
import { importPresets, keepPreset, listPresets } from '@/server/presets';

export const dynamic = 'force-dynamic';

/** All chains that are kept, in the form in which a file of them is taken in. */
export const GET = route(async () => json({ format: 'wide-room-presets', version: 1, presets: await listPresets() }));

/** Keeps a chain by a name. */
export const POST = route(async (request) => {
  const { chain, ...about } = await body(request);
  return json(await keepPreset({ ...readAs(KeepPreset, about, 'preset'), chain }), 201);
});

/** Takes an exported file in. */
export const PUT = route(async (request) => json(await importPresets(await body(request)), 201));
