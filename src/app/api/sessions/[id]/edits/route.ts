import { body, json, Refused, route } from '@/server/http';
import { changesSince, edit } from '@/server/sessions';

/** {id, base, edits}: applies the edits as one change and answers with every change since `base`. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const asked = (await body(request)) as { id?: unknown; base?: unknown; edits?: unknown };
  if (typeof asked.id !== 'string' || !asked.id || asked.id.length > 80 || !Array.isArray(asked.edits)) {
    throw new Refused(400, 'An edit request holds "id", "base" and a list "edits"; nothing was changed.');
  }
  const { revision } = await edit(id, asked.id, asked.edits);
  const base = Number.isSafeInteger(asked.base) ? (asked.base as number) : revision;
  return json({ revision, changes: await changesSince(id, base) });
});
