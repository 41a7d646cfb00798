import { body, factsJson, route } from '@/server/http';
import { filesAsked, listPrints, startPrint } from '@/server/prints';
import { openSession } from '@/server/sessions';

export const GET = route<{ id: string }>(async (_request, { id }) => {
  await openSession(id);
  return factsJson(await listPrints(id));
});

export const POST = route<{ id: string }>(async (request, { id }) => {
  const asked = await body(request);
  const { knowingly } = asked as { knowingly?: boolean };
  return factsJson(await startPrint(id, { knowingly: knowingly === true, files: filesAsked(asked) }), 201);
});
