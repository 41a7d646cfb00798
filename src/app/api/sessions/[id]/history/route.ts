import { body, json, Refused, route } from '@/server/http';
import { historyList, travel } from '@/server/sessions';

export const GET = route<{ id: string }>(async (_request, { id }) => json(await historyList(id)));

export const POST = route<{ id: string }>(async (request, { id }) => {
  const { direction, past } = (await body(request)) as { direction?: unknown; past?: unknown };
  if (direction !== 'undo' && direction !== 'redo') throw new Refused(400, 'direction must be "undo" or "redo".');
  return json(await travel(id, direction, Number.isSafeInteger(past) ? (past as number) : undefined));
});
