import { binary, route } from '@/server/http';
import { eventStream, openSession } from '@/server/sessions';

export const GET = route<{ id: string }>(async (request, { id }) => {
  await openSession(id);
  return binary(
    eventStream(id, request.signal, async () => (await openSession(id)).revision),
    'text/event-stream',
    { 'X-Accel-Buffering': 'no' },
  );
});
