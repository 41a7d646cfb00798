import { binary, json, route } from '@/server/http';
import { pictureFile, removePicture } from '@/server/media';

export const GET = route<{ id: string; file: string }>(async (request, { id, file }) => {
  const range = request.headers.get('range');
  const { type, size, from, to, body } = await pictureFile(id, file, range);
  const headers = { 'Accept-Ranges': 'bytes', 'Content-Length': String(to - from + 1) };
  const whole = binary(body, type, {
    ...headers,
    ...(range ? { 'Content-Range': `bytes ${from}-${to}/${size}` } : {}),
  });
  return range ? new Response(whole.body, { status: 206, headers: whole.headers }) : whole;
});

/** Takes away a picture that no browser could play. */
export const DELETE = route<{ id: string; file: string }>(async (_, { id, file }) => {
  await removePicture(id, file);
  return json({});
});
