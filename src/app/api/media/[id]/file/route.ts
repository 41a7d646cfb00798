import { binary, json, Refused, route } from '@/server/http';
import { mediaFile, relink } from '@/server/media';

/** A media file as it lies on the disk. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
  const { name, size, body } = await mediaFile(id);
  return binary(body, 'application/octet-stream', {
    'Content-Length': String(size),
    'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
  });
});

/** The file again, where it is missing. */
export const PUT = route<{ id: string }>(async (request, { id }) => {
  if (!request.body) throw new Refused(400, 'The request holds no file.');
  await relink(id, request.body);
  return json({ id });
});
