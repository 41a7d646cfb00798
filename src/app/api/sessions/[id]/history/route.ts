import { Travel } from '@/core/wire';
import { asked, json, route } from '@/server/http';
import { historyList, travel } from '@/server/sessions';

/** What was changed, when, and by whom. */
export const GET = route<{ id: string }>(async (_request, { id }) => json(await historyList(id)));

/** Takes the last step back, or goes forward again; where `past` is told, only steps before that revision. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { direction, past } = await asked(request, Travel, 'undo');
  return json(await travel(id, direction, past ?? undefined));
});
