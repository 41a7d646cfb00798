import { json, route } from '@/server/http';
import { removePreset } from '@/server/presets';

/** Removes a kept chain; sessions have copies of their own. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  await removePreset(id);
  return json({});
});
