'use client';
import { useEffect } from 'react';
import { clearOvers, offer, type Command, useSelection, useSession } from '@/client';
import { stemsOf } from '@/core/session';
import { follow, setFlow, toggleFold, useFlow, wantBus } from './flowState';

/** The track or bus that actions go to. */
function chosen(): { tracks: string[]; buses: string[] } {
  const { selected } = useSelection.getState();
  return {
    tracks: selected?.kind === 'track' ? [selected.id] : [],
    buses: selected?.kind === 'bus' ? [selected.id] : [],
  };
}

/** Follows the sound of the box that the keyboard is on, or of what is selected. */
function followChosen(): void {
  const { tracks, buses } = chosen();
  const { doc } = useSession.getState();
  const box = document.activeElement?.closest('[data-box]')?.getAttribute('data-box');
  const there = [...(doc?.tracks ?? []), ...(doc?.buses ?? [])].find((n) => n.id === box)?.id;
  const id = there ?? tracks[0] ?? buses[0] ?? null;
  follow(useFlow.getState().following === id ? null : id);
}

const foldAll = (fold: boolean): void => {
  const { doc } = useSession.getState();
  setFlow({ folded: new Set(fold && doc ? stemsOf(doc).map((s) => s.id) : []) });
};

/** What can be done in Flow. */
export const flowCommands = (): Command[] => [
  { id: 'follow', label: 'Follow the selected sound, or show all', keys: 'f', group: 'Flow', run: followChosen },
  {
    id: 'lens',
    label: 'Map or table',
    keys: 't',
    group: 'Flow',
    run: () => setFlow({ lens: useFlow.getState().lens === 'map' ? 'table' : 'map' }),
  },
  {
    id: 'new-stem',
    label: 'New stem',
    keys: '',
    group: 'Flow',
    run: () => wantBus({ ...chosen(), kind: 'stem' }),
  },
  {
    id: 'new-group',
    label: 'New group',
    keys: 'g',
    group: 'Flow',
    run: () => wantBus({ ...chosen(), kind: 'bus' }),
  },
  {
    id: 'new-return',
    label: 'New return',
    keys: '',
    group: 'Flow',
    run: () => wantBus({ ...chosen(), kind: 'return' }),
  },
  {
    id: 'new-reference',
    label: 'New reference',
    keys: '',
    group: 'Flow',
    run: () => wantBus({ kind: 'reference' }),
  },
  {
    id: 'clear-overs',
    label: 'Clear all overs',
    keys: 'shift+o',
    group: 'Flow',
    run: () => clearOvers(),
  },
  {
    id: 'fold-stem',
    label: 'Fold or unfold the sources of the selected stem',
    keys: '',
    group: 'Flow',
    run: () => chosen().buses.forEach(toggleFold),
  },
  { id: 'fold-all', label: 'Fold the sources of all stems', keys: '', group: 'Flow', run: () => foldAll(true) },
  { id: 'unfold-all', label: 'Unfold all sources', keys: '', group: 'Flow', run: () => foldAll(false) },
];

/** Commands and keys of Flow. */
export function FlowKeys() {
  useEffect(() => offer('flow', flowCommands()), []);
  return null;
}
