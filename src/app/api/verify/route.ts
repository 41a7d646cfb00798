import { json, Refused, route } from '@/server/http';
import { verifyUpload } from '@/server/prints';

/** Proves an archive of a print again. */
export const POST = route(async (request) => {
  if (!request.body) throw new Refused(400, 'The request holds no archive.');
  return json({ found: await verifyUpload(request.body) });
});
