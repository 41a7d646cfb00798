import { create } from 'zustand';
import { cueAt, type Cue } from '@/core/session';
import { useSession } from './session';
import { useTransport } from './transportState';

/** The cue that is worked on; null: the one at the playhead. */
export const useCue = create<{ chosen: string | null }>(() => ({ chosen: null }));

export const chooseCue = (chosen: string | null): void => useCue.setState({ chosen });

/** The chosen cue, or the one at the playhead. */
export function chosenCue(): Cue | undefined {
  const { doc } = useSession.getState();
  if (!doc) return undefined;
  const { chosen } = useCue.getState();
  return doc.cues.find((c) => c.id === chosen) ?? cueAt(doc, useTransport.getState().position);
}
