import { json, route } from '@/server/http';
import { finishImport } from '@/server/media';
import { openSession } from '@/server/sessions';

type Params = { id: string; waiting: string };

/** Converts a file that waits, and takes it in. */
export const POST = route<Params>(async (_, { id, waiting }) =>
  json(await finishImport(id, waiting, true, (await openSession(id)).doc.format), 201),
);

/** Leaves it out. */
export const DELETE = route<Params>(async (_, { id, waiting }) => {
  await finishImport(id, waiting, false, (await openSession(id)).doc.format);
  return json({});
});
