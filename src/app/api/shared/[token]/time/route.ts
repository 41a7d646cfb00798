import { json, route } from '@/server/http';
import { shareBy } from '@/server/sharing';

/** The time of this machine, so that another knows how its own clock stands to it. */
export const GET = route<{ token: string }>(async (_, { token }) => {
  shareBy(token);
  return json({ now: performance.timeOrigin + performance.now() });
});
