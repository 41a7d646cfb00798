import { entryOf } from '@/core/session';
import { ReadPieces } from '@/core/wire';
import { asked, binary, Refused, route } from '@/server/http';
import { readBlocks } from '@/server/media';
import { openSession } from '@/server/sessions';

/** {items: [{media, from, frames}]}: their samples, planar f32, one after another. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { doc } = await openSession(id);
  const { items } = await asked(request, ReadPieces, 'pieces');
  const bytes = await readBlocks(items, (media) => {
    const ref = entryOf(doc.media, media);
    if (!ref) throw new Refused(404, `The session has no file "${media}".`);
    return ref.channels;
  });
  return binary(bytes);
});
