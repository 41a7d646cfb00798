import { binary, route } from '@/server/http';
import { shareStream } from '@/server/sharing';

export const dynamic = 'force-dynamic';

/** What happens in a session, for a performer's window. */
export const GET = route<{ token: string }>(async (request, { token }) =>
  binary(shareStream(token, request.signal), 'text/event-stream', { 'X-Accel-Buffering': 'no' }),
);
