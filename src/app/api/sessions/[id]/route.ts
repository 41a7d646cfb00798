import { askingSeat, json, route } from '@/server/http';
import { openSession, seatAt } from '@/server/sessions';

/** A session with its revision and the asking browser's own seat. */
export const GET = route<{ id: string }>(async (_request, { id }) =>
  json({ ...(await openSession(id)), ...(await seatAt(id, askingSeat())) }),
);
