import { create } from 'zustand';
import type { SessionDoc, Take, Track } from '@/core/session';
import { ask } from './http';

export type Selected = { kind: 'line' | 'track' | 'bus' | 'clip' | 'take'; id: string } | null;

interface SelectionState {
  selected: Selected;
  /** Clips that actions go to: the selected one, and those that were added to it. */
  clips: readonly string[];
  /** The inspector folds. */
  folded: boolean;
}

export const useSelection = create<SelectionState>(() => ({ selected: null, clips: [], folded: false }));

export const select = (selected: Selected): void =>
  useSelection.setState({ selected, clips: selected?.kind === 'clip' ? [selected.id] : [] });

/** Chooses clips together; the last of them is shown in full. */
export function selectClips(clips: readonly string[]): void {
  const last = clips.at(-1);
  useSelection.setState({ clips, selected: last ? { kind: 'clip', id: last } : null });
}

/** The track that the selection is on. */
export function trackSelected({ tracks }: SessionDoc, { selected } = useSelection.getState()): Track | undefined {
  if (!selected) return undefined;
  return tracks.find(
    (t) =>
      (selected.kind === 'track' && t.id === selected.id) ||
      (selected.kind === 'clip' && t.clips.some((c) => c.id === selected.id)) ||
      (selected.kind === 'take' && t.takes.some((k) => k.id === selected.id)),
  );
}

/**
 * What was judged is left for what comes: its track is selected in its place, so that the next key means the newest take
 * there. `cue`: the cue that is worked on now, whose own takes stay chosen; undefined: a new take rolls.
 */
export function leaveJudged(doc: SessionDoc, cue?: string | null): void {
  const { selected } = useSelection.getState();
  const track = trackSelected(doc);
  if (!track || !(selected?.kind === 'take' || (selected?.kind === 'clip' && cue === undefined))) return;
  const take = track.takes.find((k) => k.id === selected.id);
  if (cue === undefined || take?.cue !== cue) select({ kind: 'track', id: track.id });
}

/** Whether a take is chosen: itself, or by a clip of its sound. */
export function isTakeChosen(selected: Selected, track: Track, take: Take): boolean {
  if (selected?.kind === 'take') return selected.id === take.id;
  return selected?.kind === 'clip' && track.clips.some((c) => c.id === selected.id && c.media === take.media);
}

export const foldInspector = (): void => useSelection.setState((s) => ({ folded: !s.folded }));

const isThere = (selected: NonNullable<Selected>, doc: SessionDoc): boolean =>
  [doc.lines, doc.tracks, doc.buses].some((list) => list.some((x) => x.id === selected.id));

/** What was selected last at this seat, where nothing is yet and it is still there. */
export function selectAgain(selected: Selected, doc: SessionDoc): void {
  if (selected && useSelection.getState().selected === null && isThere(selected, doc)) select(selected);
}

/** Selections follow each other as fast as somebody clicks: only where one stays is it kept (ms). */
const STAYS = 600;

/** Keeps what is selected with the seat, for the next time the session is opened; returns what ends it. */
export function followSelection(session: string): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const end = useSelection.subscribe(({ selected }, before) => {
    if (selected === before.selected) return;
    clearTimeout(timer);
    timer = setTimeout(
      () =>
        void ask(`/api/sessions/${session}/seat`, { selected }, 'PUT').catch(() => {
          // A selection is not worth a second try.
        }),
      STAYS,
    );
  });
  return () => {
    clearTimeout(timer);
    end();
  };
}
