import { body, factsJson, route } from '@/server/http';
import { comparePrints, readCompare } from '@/server/prints';

/** What changed from another print of its session to this one. */
export const POST = route<{ id: string }>(async (request, { id }) =>
  factsJson(await comparePrints(id, readCompare(await body(request)))),
);
