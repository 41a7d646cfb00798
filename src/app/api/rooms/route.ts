import { body, json, route } from '@/server/http';
import { addRoom, importRooms, listRooms } from '@/server/rooms';

export const dynamic = 'force-dynamic';

/** All rooms of this house. */
export const GET = route(async () => json({ rooms: await listRooms() }));

/** Adds a room. */
export const POST = route(async (request) => json(await addRoom(await body(request)), 201));

/** Takes an exported file in. */
export const PUT = route(async (request) => json({ rooms: await importRooms(await body(request)) }, 201));
