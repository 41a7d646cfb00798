import { UndoRoom } from '@/core/wire';
import { asked, json, route } from '@/server/http';
import { undoRoom } from '@/server/rooms';

/** Takes a room back to what it was before its last change; refused where another window was quicker. */
export const POST = route<{ id: string }>(async (request, { id }) =>
  json(await undoRoom(id, await asked(request, UndoRoom, 'room'))),
);
