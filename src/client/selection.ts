import { create } from 'zustand';

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

export const foldInspector = (): void => useSelection.setState((s) => ({ folded: !s.folded }));
