import { binary, body, Refused, route } from '@/server/http';
import { readBlocks, type BlockItem } from '@/server/media';
import { openSession } from '@/server/sessions';

/** {items: [{media, from, frames}]}: their samples, planar f32, one after another. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { doc } = await openSession(id);
  const { items } = (await body(request)) as { items?: BlockItem[] };
  if (!Array.isArray(items)) throw new Refused(400, 'The request must hold a list "items".');
  const bytes = await readBlocks(items, (media) => {
    const ref = doc.media[media];
    if (!ref) throw new Refused(404, `The session has no file "${media}".`);
    return ref.channels;
  });
  return binary(bytes);
});
