import { body, json, route } from '@/server/http';
import { listPrints, startPrint } from '@/server/prints';
import { openSession } from '@/server/sessions';

export const GET = route<{ id: string }>(async (_request, { id }) => {
  await openSession(id);
  return json(await listPrints(id));
});

export const POST = route<{ id: string }>(async (request, { id }) => {
  const { knowingly } = (await body(request)) as { knowingly?: boolean };
  return json(await startPrint(id, knowingly === true), 201);
});
