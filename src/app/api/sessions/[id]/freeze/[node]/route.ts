import { json, route } from '@/server/http';
import { frozenFile } from '@/server/media';
import { openSession, publish } from '@/server/sessions';

/** Makes the file of a track's or bus's sound behind its chain; answers with what the edit that freezes it takes. */
export const POST = route<{ id: string; node: string }>(async (_request, { id, node }) => {
  const { doc } = await openSession(id);
  return json(await frozenFile(id, doc, node, (share) => publish(id, { kind: 'freezing', node, share })), 201);
});
