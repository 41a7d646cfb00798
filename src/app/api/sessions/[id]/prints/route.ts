import { StartPrint } from '@/core/wire';
import { asked, factsJson, route } from '@/server/http';
import { listPrints, startPrint } from '@/server/prints';
import { openSession } from '@/server/sessions';

/** All prints of a session. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
  await openSession(id);
  return factsJson(await listPrints(id));
});

/** Starts a print; refused where a check stops it. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { knowingly = false, only, beside } = await asked(request, StartPrint, 'print');
  return factsJson(
    await startPrint(id, { knowingly, files: { only: only ?? undefined, beside: beside ?? undefined } }),
    201,
  );
});
