import { binary, route } from '@/server/http';
import { sessionEvents, revisions } from '@/server/sessions';

export const dynamic = 'force-dynamic';

/** What happens in all sessions. One stream serves all windows of a browser (see src/client/events.ts). */
export const GET = route(async (request) =>
  binary(sessionEvents(request.signal, revisions), 'text/event-stream', { 'X-Accel-Buffering': 'no' }),
);
