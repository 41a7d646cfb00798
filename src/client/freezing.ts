import type { MediaRef } from '@/core/session';
import { ask } from './http';
import { edit, settled, useSession } from './session';

/**
 * Freezes a track: its sound behind the chain is made on the server, and it plays from that. Throws with a sentence when
 * it cannot be done; then the track is as it was.
 */
export async function freeze(track: string): Promise<void> {
  await settled();
  const { id } = useSession.getState();
  const made = await ask<{ media: MediaRef; start: number; from: number }>(
    `/api/sessions/${id}/tracks/${track}/freeze`,
    {},
  );
  if (useSession.getState().id === id) edit({ type: 'freezeTrack', track, ...made });
}

export const thaw = (track: string): boolean => edit({ type: 'thawTrack', track });
