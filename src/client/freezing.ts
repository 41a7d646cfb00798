import { create } from 'zustand';
import { isBus, nodeOf, thawEdit, type EditJson, type MediaRef, type SessionDoc } from '@/core/session';
import { ask } from './http';
import { edit, onFreezing, settled, useSession } from './session';

/** How much of the file is made, 0 to 1, by the track or bus that is being frozen in this window. */
export const useFreezing = create<{ shares: Readonly<Record<string, number>> }>(() => ({ shares: {} }));

onFreezing(({ node, share }) => {
  const { shares } = useFreezing.getState();
  if (node in shares) useFreezing.setState({ shares: { ...shares, [node]: share } });
});

/**
 * Freezes a track or bus: its sound behind the chain is made on the server, and it plays from that. Throws with a
 * sentence when it cannot be done; then it is as it was.
 */
export async function freeze(id: string): Promise<void> {
  useFreezing.setState(({ shares }) => ({ shares: { ...shares, [id]: 0 } }));
  try {
    await settled();
    const { id: session } = useSession.getState();
    const made = await ask<{ media: MediaRef; start: number; from: number }>(
      `/api/sessions/${session}/freeze/${encodeURIComponent(id)}`,
      {},
    );
    const { id: now, doc } = useSession.getState();
    if (now !== session || !doc) return;
    edit(
      isBus(nodeOf(doc, id)) ? { type: 'freezeBus', bus: id, ...made } : { type: 'freezeTrack', track: id, ...made },
    );
  } finally {
    useFreezing.setState(({ shares: { [id]: _done, ...shares } }) => ({ shares }));
  }
}

/** What lets tracks and buses play from what feeds them again. */
export const thawEdits = (doc: SessionDoc, ids: readonly string[]): EditJson[] =>
  ids.map((id) => thawEdit(nodeOf(doc, id)));
