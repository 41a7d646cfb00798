import { create } from 'zustand';
import type { BusKind } from '@/core/paths';

/** What the next bus is made for: the sounds that go there, and what it is proposed to be. */
export interface BusWanted {
  tracks: string[];
  buses: string[];
  kind: BusKind;
}

interface FlowState {
  lens: 'map' | 'table';
  /** Track or bus whose ways alone are lit. */
  following: string | null;
  find: string;
  /** Stems whose sources stand for one box. */
  folded: ReadonlySet<string>;
  /** A bus that waits for its name; null: none is being made. */
  wanted: BusWanted | null;
}

/** How Flow is looked at; it stays while one goes to other places. */
export const useFlow = create<FlowState>(() => ({
  lens: 'map',
  following: null,
  find: '',
  folded: new Set(),
  wanted: null,
}));

export const setFlow = (part: Partial<FlowState>): void => useFlow.setState(part);

export const follow = (id: string | null): void => useFlow.setState({ following: id });

export const wantBus = (part: Partial<BusWanted> = {}): void =>
  useFlow.setState({ wanted: { tracks: [], buses: [], kind: 'stem', ...part } });

export const toggleFold = (stem: string): void =>
  useFlow.setState(({ folded }) => {
    const next = new Set(folded);
    if (!next.delete(stem)) next.add(stem);
    return { folded: next };
  });

/** Whether a row is meant by what is typed in "find a row". */
export const isFound = (find: string, name: string): boolean =>
  find.trim() === '' || name.toLowerCase().includes(find.trim().toLowerCase());
