import { FindTone } from '@/core/wire';
import { asked, json, Refused, route } from '@/server/http';
import { cutTone, findTone } from '@/server/media';
import { openSession } from '@/server/sessions';

/** Finds quiet places in a file, or, with `start` and `name`, cuts one into a file of its own. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { start, name, ...stretch } = await asked(request, FindTone, 'room tone');
  const { doc } = await openSession(id);
  if (start === undefined) return json({ places: await findTone(id, doc, stretch) });
  if (!name?.trim()) throw new Refused(400, 'A room tone needs a name; nothing was cut.');
  return json(await cutTone(id, doc, { ...stretch, start, name: name.trim().slice(0, 60) }), 201);
});
