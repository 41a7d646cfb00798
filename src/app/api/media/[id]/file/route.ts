import { binary, route } from '@/server/http';
import { mediaFile } from '@/server/media';

export const GET = route<{ id: string }>(async (_request, { id }) => {
  const { name, size, body } = await mediaFile(id);
  return binary(body, 'application/octet-stream', {
    'Content-Length': String(size),
    'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
  });
});
