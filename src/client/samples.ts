import { useSession } from './session';

/** Samples of a file of the session, planar. Throws when the server does not give them. */
export async function samplesOf(media: string, from: number, frames: number): Promise<Float32Array[]> {
  const { id, doc } = useSession.getState();
  const response = await fetch(`/api/sessions/${id}/blocks`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ items: [{ media, from: Math.round(from), frames }] }),
  });
  if (!response.ok) throw new Error(`The sound could not be fetched (status ${response.status}).`);
  const all = new Float32Array(await response.arrayBuffer());
  const channels = doc?.media[media]?.channels ?? 1;
  return Array.from({ length: channels }, (_, c) => all.subarray(c * frames, (c + 1) * frames));
}
