import { ChangeRate } from '@/core/wire';
import { asked, json, route } from '@/server/http';
import { changeRate } from '@/server/sessions/changeRate';

/** Changes the sample rate of a session: its files are converted. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { sampleRate } = await asked(request, ChangeRate, 'rate');
  return json(await changeRate(id, sampleRate));
});
