import { Readable } from 'node:stream';
import { binary, json, route } from '@/server/http';
import { removeTemplate, templateArchive } from '@/server/templates';

type Params = { id: string };

export const GET = route<Params>(async (_request, { id }) => {
  const { name, stream } = await templateArchive(id);
  return binary(Readable.toWeb(stream as Readable) as ReadableStream, 'application/zip', {
    'Content-Disposition': `attachment; filename="${name}"`,
  });
});

export const DELETE = route<Params>(async (_request, { id }) => {
  await removeTemplate(id);
  return json({});
});
