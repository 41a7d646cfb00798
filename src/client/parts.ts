import type { Bus, SessionDoc, Track } from '@/core/session';
import { useSession } from './session';

/** What `select` gives of the document; drawn again only when that is another value. Only where a session is open. */
export const useDocPart = <T>(select: (doc: SessionDoc) => T): T => useSession((s) => select(s.doc!));

/** A track as it is now; undefined once it is gone. Drawn again only when it changes itself. */
export const useTrack = (id: string): Track | undefined => useDocPart((doc) => doc.tracks.find((t) => t.id === id));

/** A bus as it is now; undefined once it is gone. */
export const useBus = (id: string): Bus | undefined => useDocPart((doc) => doc.buses.find((b) => b.id === id));
