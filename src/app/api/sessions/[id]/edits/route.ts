import { readAs } from '@/core/session';
import { SendEdits } from '@/core/wire';
import { body, json, Refused, route } from '@/server/http';
import { changesSince, edit } from '@/server/sessions';

/** {id, base, edits}: applies the edits as one change and answers with every change since `base`. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { edits, ...rest } = await body(request);
  if (!Array.isArray(edits)) throw new Refused(400, 'The request holds no list "edits"; nothing was changed.');
  const asked = readAs(SendEdits, rest, 'edits');
  const { revision } = await edit(id, asked.id, edits);
  return json({ revision, changes: await changesSince(id, asked.base ?? revision) });
});
