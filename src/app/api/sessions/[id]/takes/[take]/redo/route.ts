import { json, route } from '@/server/http';
import { redoTake } from '@/server/recordings';

/** Makes the processed file of a take anew from its dry copy, by the chain as it is now. */
export const POST = route<{ id: string; take: string }>(async (_request, { id, take }) =>
  json(await redoTake(id, take), 201),
);
