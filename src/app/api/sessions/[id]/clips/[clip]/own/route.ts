import { OwnFile } from '@/core/wire';
import { asked, json, Refused, route } from '@/server/http';
import { ownFile } from '@/server/media';
import { openSession, serverEdit } from '@/server/sessions';

/** Longest file that one may ask for (s). */
const MOST_SECONDS = 24 * 3600;

/** Gives a clip a file of its own of exactly `frames` samples. */
export const POST = route<{ id: string; clip: string }>(async (request, { id, clip }) => {
  const { frames } = await asked(request, OwnFile, 'own file');
  const { doc } = await openSession(id);
  if (frames > MOST_SECONDS * doc.format.sampleRate)
    throw new Refused(400, 'frames must be the length of the new file in samples, of at most a day. No file was made.');
  const media = await ownFile(id, doc, clip, frames);
  await serverEdit(id, { type: 'giveClipFile', clip, media });
  return json(media, 201);
});
