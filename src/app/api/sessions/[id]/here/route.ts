import { isPlainId } from '@/core/session';
import { body, json, Refused, route, someSeat } from '@/server/http';
import { noteHere } from '@/server/sessions';

/** {window, going, recording}: a window has the session open and records or not, or closes. Answers with who is here. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { window, going, recording } = (await body(request)) as Record<string, unknown>;
  if (!isPlainId(window)) throw new Refused(400, 'The request names no window.');
  return json(await noteHere(id, someSeat(), window, { going: going === true, recording: recording === true }));
});
