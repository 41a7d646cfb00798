import { safeName } from '@/core/print';
import { SetRoom } from '@/core/wire';
import { asked, json, route } from '@/server/http';
import { removeRoom, roomFile, setRoom } from '@/server/rooms';

/** A file that holds the room. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
  const { name, file } = await roomFile(id);
  return new Response(`${JSON.stringify(file, null, 2)}\n`, {
    headers: {
      'Content-Type': 'application/json',
      'Content-Disposition': `attachment; filename="${safeName(name)}.room.json"`,
    },
  });
});

/** Writes a room anew; refused where another window was quicker. */
export const PUT = route<{ id: string }>(async (request, { id }) =>
  json(await setRoom(id, await asked(request, SetRoom, 'room'))),
);

/** Removes a room. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  await removeRoom(id);
  return json({});
});
