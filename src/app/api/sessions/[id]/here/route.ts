import { isPlainId } from '@/core/session';
import { body, json, Refused, route, someSeat } from '@/server/http';
import { noteHere } from '@/server/sessions';

/** {window, going}: a window has the session open, or closes. Answers with who is here. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { window, going } = (await body(request)) as { window?: unknown; going?: unknown };
  if (!isPlainId(window)) throw new Refused(400, 'The request names no window.');
  return json(await noteHere(id, someSeat(), window, going === true));
});
