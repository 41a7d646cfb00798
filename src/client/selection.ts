import { create } from 'zustand';

export type Selected = { kind: 'line' | 'track' | 'bus' | 'clip'; id: string } | null;

interface SelectionState {
  selected: Selected;
  /** The inspector folds. */
  folded: boolean;
}

export const useSelection = create<SelectionState>(() => ({ selected: null, folded: false }));
export const select = (selected: Selected): void => useSelection.setState({ selected });
export const foldInspector = (): void => useSelection.setState((s) => ({ folded: !s.folded }));
