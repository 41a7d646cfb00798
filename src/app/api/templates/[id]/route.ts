import { Readable } from 'node:stream';
import { binary, json, route } from '@/server/http';
import { removeTemplate, templateArchive } from '@/server/templates';

type Params = { id: string };

/** A template with its files, as one ZIP. */
export const GET = route<Params>(async (_request, { id }) => {
  const { name, stream } = await templateArchive(id);
  return binary(Readable.toWeb(stream as Readable) as ReadableStream, 'application/zip', {
    'Content-Disposition': `attachment; filename="${name}"`,
  });
});

/** Removes a template; sessions that were begun from it stay. */
export const DELETE = route<Params>(async (_request, { id }) => {
  await removeTemplate(id);
  return json({});
});
