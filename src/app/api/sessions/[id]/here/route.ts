import { NoteHere } from '@/core/wire';
import { asked, json, route, someSeat } from '@/server/http';
import { noteHere } from '@/server/sessions';

/** {window, going, recording}: a window has the session open and records or not, or closes. Answers with who is here. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { window, going = false, recording = false } = await asked(request, NoteHere, 'window');
  return json(await noteHere(id, someSeat(), window, { going, recording }));
});
