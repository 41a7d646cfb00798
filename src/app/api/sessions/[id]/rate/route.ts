import { body, json, route } from '@/server/http';
import { changeRate } from '@/server/sessions/changeRate';

export const POST = route<{ id: string }>(async (request, { id }) => {
  const { sampleRate } = (await body(request)) as { sampleRate?: unknown };
  return json(await changeRate(id, Number(sampleRate)));
});
