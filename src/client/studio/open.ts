import { useStore, type StoreApi } from 'zustand';
import { create } from 'zustand';
import { addGuard, edit, openSession, preview, settled, useSession } from '../session';
import { leaveJudged } from '../selection';
import type { OpenSession, SessionAccess } from './access';
import { newRecorderLink } from './recorderLink';
import { Studio } from './studio';

const heard = ({ id, sounding, online }: ReturnType<typeof useSession.getState>): OpenSession => ({
  ...{ id, online },
  doc: sounding,
});

const access: SessionAccess = {
  getState: () => heard(useSession.getState()),
  subscribe: (listener) => useSession.subscribe((now, before) => listener(heard(now), heard(before))),
  edit,
  preview,
  settled,
  guard: addGuard,
};
const recorder = newRecorderLink();

const useOpen = create<{ studio: Studio | null }>(() => ({ studio: null }));

/** Opens a session with its studio; returns what ends it. */
export function openStudio(session: string): () => void {
  void openSession(session);
  const studio = new Studio(access, { recorder });
  useOpen.setState({ studio });
  const end = followJudged(studio);
  return () => {
    end();
    void studio.close();
  };
}

/** A take that was chosen is left when another cue is worked on or a new take rolls. */
function followJudged({ transport, marks }: Studio): () => void {
  const leave = (cue?: string | null) => {
    const { doc } = useSession.getState();
    if (doc) leaveJudged(doc, cue);
  };
  const ends = [
    transport.state.subscribe((now, before) => {
      if (now.state === 'recording' && before.state !== 'recording') leave();
    }),
    marks.cue.subscribe((now, before) => {
      if (now.chosen !== before.chosen) leave(now.chosen);
    }),
  ];
  return () => ends.forEach((e) => e());
}

/** The studio of the open session; where one was left and none opened yet, that one. Throws before the first. */
export function studio(): Studio {
  const { studio } = useOpen.getState();
  if (!studio) throw new Error('No session is open.');
  return studio;
}

/** Something that the open studio keeps, as a hook and to be read; only where a session is open. */
export function kept<T>(of: (studio: Studio) => StoreApi<T>) {
  function useKept(): T;
  function useKept<U>(pick: (state: T) => U): U;
  function useKept<U>(pick?: (state: T) => U): T | U {
    const store = of(useOpen((s) => s.studio)!);
    return useStore(store, pick ?? ((s: T): T | U => s));
  }
  return Object.assign(useKept, { getState: (): T => of(studio()).getState() });
}
