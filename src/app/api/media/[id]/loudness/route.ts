import { factsJson, Refused, route } from '@/server/http';
import { mediaLoudness } from '@/server/media';

/** `?frames=`: length of the file as the session has it. */
export const GET = route<{ id: string }>(async (request, { id }) => {
  const frames = Number(new URL(request.url).searchParams.get('frames') ?? 0);
  if (!Number.isSafeInteger(frames) || frames < 0) throw new Refused(422, '"frames" is a whole number.');
  return factsJson(await mediaLoudness(id, frames));
});
