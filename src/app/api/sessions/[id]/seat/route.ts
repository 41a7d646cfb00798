import { body, json, Refused, route, someSeat } from '@/server/http';
import { editSeat, keepSelected } from '@/server/sessions';

/** {edits}: changes what belongs to the asking seat: solo, arm, what is heard of inputs, the monitor. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { edits } = await body(request);
  if (!Array.isArray(edits)) throw new Refused(400, 'The request holds no list "edits"; nothing was changed.');
  return json({ state: await editSeat(id, someSeat(), edits) });
});

/** {selected}: what was selected last. */
export const PUT = route<{ id: string }>(async (request, { id }) => {
  const { selected = null } = await body(request);
  await keepSelected(id, someSeat(), selected);
  return json({});
});
