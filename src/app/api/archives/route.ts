import { bringSession } from '@/server/archives';
import { json, route, uploaded } from '@/server/http';

/** Takes a whole session in from its archive. */
export const POST = route(async (request) => json(await uploaded(request, bringSession), 201));
