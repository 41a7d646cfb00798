import { json, route, uploaded } from '@/server/http';
import { verifyUpload } from '@/server/prints';

/** Proves an archive of a print again. */
export const POST = route(async (request) => json({ found: await uploaded(request, verifyUpload) }));
