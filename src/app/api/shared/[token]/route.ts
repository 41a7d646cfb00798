import { json, route } from '@/server/http';
import { sharedDoc } from '@/server/sharing';

/** What the performer sees of a session. */
export const GET = route<{ token: string }>(async (_, { token }) => json(await sharedDoc(token)));
