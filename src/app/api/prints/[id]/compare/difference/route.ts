import { body, json, route } from '@/server/http';
import { hearDifference, readCompare } from '@/server/prints';

/** Brings what is left of one reference less the other into the session's media; answers with the edit that lays it out. */
export const POST = route<{ id: string }>(async (request, { id }) =>
  json(await hearDifference(id, readCompare(await body(request))), 201),
);
