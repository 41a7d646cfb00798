import { json, route } from '@/server/http';
import { redoTake } from '@/server/recordings';

export const POST = route<{ id: string; take: string }>(async (_request, { id, take }) =>
  json(await redoTake(id, take), 201),
);
