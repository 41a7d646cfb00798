import { useRef } from 'react';
import { shallow } from 'zustand/shallow';
import type { Bus, SessionDoc, Track } from '@/core/session';
import { useSession } from './session';

/**
 * What `select` gives of the document; drawn again only when that, or a member of it, is another value. Only where a session
 * is open.
 */
export function useDocPart<T>(select: (doc: SessionDoc) => T): T {
  const before = useRef<{ value: T } | null>(null);
  // Asked once for each document and drawing: what is made anew whenever it is asked for would never come to rest.
  let asked: { doc: SessionDoc | null; value: T } | null = null;
  const value = useSession(({ doc }) => {
    if (asked?.doc === doc && asked) return asked.value;
    const now = select(doc!);
    const { current } = before;
    asked = { doc, value: current && shallow(current.value, now) ? current.value : now };
    return asked.value;
  });
  before.current = { value };
  return value;
}

/**
 * The document, or parts of it by their names. Who names parts is drawn again when one of them changes; who takes all of it,
 * with every edit.
 */
export function useDoc(): SessionDoc;
export function useDoc<K extends keyof SessionDoc>(...parts: K[]): Pick<SessionDoc, K>;
export function useDoc(...parts: (keyof SessionDoc)[]): Partial<SessionDoc> {
  return useDocPart((doc) => (parts.length ? Object.fromEntries(parts.map((p) => [p, doc[p]])) : doc));
}

/** The document as it is at this moment: for what is done when somebody presses. Only where a session is open. */
export const docNow = (): SessionDoc => useSession.getState().doc!;

/** A track as it is now; undefined once it is gone. Drawn again only when it changes itself. */
export const useTrack = (id: string): Track | undefined => useDocPart((doc) => doc.tracks.find((t) => t.id === id));

/** A bus as it is now; undefined once it is gone. */
export const useBus = (id: string): Bus | undefined => useDocPart((doc) => doc.buses.find((b) => b.id === id));
