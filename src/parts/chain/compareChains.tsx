'use client';
import { create } from 'zustand';
import { edit, useDoc } from '@/client';
import { chainOf, type Owner, type Stage } from '@/core/session';
import { plain } from './presets';

interface Sides {
  /** The other side of each chain, by owner; and which letter sounds now. */
  other: Record<string, { chain: Stage[]; sounds: 'A' | 'B' }>;
}

/** Kept while the page is open: a comparison is a matter of listening, the chain that sounds is the session's. */
const useSides = create<Sides>(() => ({ other: {} }));
const keyOf = (owner: Owner) => `${owner.kind} ${owner.id}`;

/** Two settings of one chain against each other: the first press of B begins with a copy of A. */
export function CompareChains({ owner }: { owner: Owner }) {
  const doc = useDoc();
  const key = keyOf(owner);
  const side = useSides((s) => s.other[key]);
  const sounds = side?.sounds ?? 'A';
  const swap = (to: 'A' | 'B') => {
    if (to === sounds) return;
    const now = JSON.parse(JSON.stringify(chainOf(doc, owner).map(plain))) as Stage[];
    const next = side?.chain ?? now;
    if (side && !edit({ type: 'setChain', owner, chain: next })) return;
    useSides.setState((s) => ({ other: { ...s.other, [key]: { chain: now, sounds: to } } }));
  };
  return (
    <span className="flex gap-1" role="group" aria-label="Compare two settings">
      {(['A', 'B'] as const).map((letter) => (
        <button
          key={letter}
          className="chip figure"
          aria-pressed={sounds === letter}
          title={letter === sounds ? `${letter} sounds` : `Hear ${letter}${side ? '' : ', a copy to change'}`}
          style={sounds === letter ? { borderColor: 'var(--brass)', color: 'var(--brass)' } : undefined}
          onClick={() => swap(letter)}
        >
          {letter}
        </button>
      ))}
    </span>
  );
}
