import { binary, route } from '@/server/http';
import { guidePicture } from '@/server/guide';

export const GET = route<{ file: string }>(async (_request, { file }) => {
  const { size, body } = await guidePicture(file);
  return binary(body, 'image/png', { 'Content-Length': String(size) });
});
