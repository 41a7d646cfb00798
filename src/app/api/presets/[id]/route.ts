import { json, route } from '@/server/http';
import { removePreset } from '@/server/presets';

export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  await removePreset(id);
  return json({});
});
