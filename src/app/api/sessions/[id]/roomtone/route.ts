import { body, json, Refused, route } from '@/server/http';
import { cutTone, findTone, type ToneAsked } from '@/server/media';
import { openSession } from '@/server/sessions';

/** Finds quiet places in a file, or, with `start` and `name`, cuts one into a file of its own. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const asked = (await body(request)) as Partial<ToneAsked> & { start?: unknown; name?: unknown };
  const { media, from, to, length, start, name } = asked;
  if (typeof media !== 'string' || ![from, to, length].every(Number.isSafeInteger))
    throw new Refused(400, 'A room tone needs "media", and "from", "to" and "length" in samples.');
  const { doc } = await openSession(id);
  const stretch = { media, from, to, length } as ToneAsked;
  if (start === undefined) return json({ places: await findTone(id, doc, stretch) });
  if (!Number.isSafeInteger(start) || typeof name !== 'string' || !name.trim())
    throw new Refused(400, 'A cut needs "start" in samples and a "name".');
  return json(await cutTone(id, doc, { ...stretch, start: start as number, name: name.trim().slice(0, 60) }), 201);
});
