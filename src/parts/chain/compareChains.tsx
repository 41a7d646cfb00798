'use client';
import { useEffect, useRef } from 'react';
import { create } from 'zustand';
import {
  comparedGain,
  compareSide,
  edit,
  endComparing,
  forgetSide,
  matchSides,
  useComparing,
  watchChain,
  type Side,
  useDocPart,
} from '@/client';
import { chainOf, type Owner, type Stage } from '@/core/session';
import { formatDb } from '@/core/units';
import { plain } from './presets';

interface Compared {
  /** Both sides as plain JSON; of the one that sounds, as it was last. */
  sides: Record<Side, string>;
  sounds: Side;
}

/** Kept while the page is open: a comparison is a matter of listening, the chain that sounds is the session's. */
const useSides = create<{ of: Record<string, Compared> }>(() => ({ of: {} }));
const keyOf = (owner: Owner) => `${owner.kind} ${owner.id}`;
const otherOf = (side: Side): Side => (side === 'A' ? 'B' : 'A');

/**
 * The comparison after the chain has become `now`: an undo that brings back the other side's setting is a change of sides,
 * anything else a change of the side that sounds.
 */
export function followed(compared: Compared, now: string): Compared {
  const { sides, sounds } = compared;
  const other = otherOf(sounds);
  if (now === sides[sounds]) return compared;
  if (now === sides[other]) return { sides, sounds: other };
  return { sides: { ...sides, [sounds]: now }, sounds };
}

/** Two settings of one chain against each other, equally loud: the first press of B begins with a copy of A. */
export function CompareChains({ owner, open }: { owner: Owner; open: string | null }) {
  const chain = useDocPart((doc) => chainOf(doc, owner));
  const key = keyOf(owner);
  const compared = useSides((s) => s.of[key]);
  const sounds = compared?.sounds ?? 'A';
  const now = JSON.stringify(chain.map(plain));
  const settings = JSON.stringify(chain.map(({ type, on, values }) => [type, on, values]));
  const comparing = compared !== undefined;
  // An undo may have changed sides, or the side that sounds.
  useEffect(() => {
    useSides.setState((s) => {
      const before = s.of[key];
      const after = before && followed(before, now);
      return after && after !== before ? { of: { ...s.of, [key]: after } } : s;
    });
  }, [key, now]);
  useEffect(() => {
    if (!comparing) return;
    const end = watchChain(owner.id, open);
    return () => {
      end();
      endComparing();
    };
  }, [comparing, owner.id, open]);
  useEffect(() => {
    if (comparing) compareSide(key, sounds);
  }, [comparing, key, sounds]);
  // A turned knob makes another sound of this side; changing sides does not.
  const known = useRef<Partial<Record<Side, string>>>({});
  useEffect(() => {
    if (!comparing) return;
    if (known.current[sounds] !== undefined && known.current[sounds] !== settings) forgetSide(sounds);
    known.current[sounds] = settings;
  }, [comparing, sounds, settings]);
  const swap = (to: Side) => {
    if (to === sounds) return;
    const sides = { A: now, B: now, ...compared?.sides, [sounds]: now };
    if (compared && !edit({ type: 'setChain', owner, chain: JSON.parse(sides[to]) as Stage[] })) return;
    useSides.setState((s) => ({ of: { ...s.of, [key]: { sides, sounds: to } } }));
  };
  return (
    <span className="flex items-center gap-1" role="group" aria-label="Compare two settings">
      {(['A', 'B'] as const).map((letter) => (
        <button
          key={letter}
          className="chip figure"
          aria-pressed={sounds === letter}
          title={letter === sounds ? `${letter} sounds` : `Hear ${letter}${compared ? '' : ', a copy to change'}`}
          style={sounds === letter ? { borderColor: 'var(--brass)', color: 'var(--brass)' } : undefined}
          onClick={() => swap(letter)}
        >
          {letter}
        </button>
      ))}
    </span>
  );
}

/** How much louder B is than A, and whether both are heard equally loud; while two settings are compared. */
export function Matched({ owner }: { owner: Owner }) {
  const state = useComparing();
  if (state.chain !== keyOf(owner)) return null;
  const { gains, matched } = state;
  const by = gains.A === null || gains.B === null ? null : gains.B - gains.A;
  const softer = comparedGain(state);
  return (
    <div className="mb-1.5 flex items-center gap-1.5 whitespace-nowrap">
      <button
        className="chip"
        aria-pressed={matched}
        title="The louder side is heard softer, so that it does not win by being louder. Only in your ears."
        style={matched ? { borderColor: 'var(--brass)', color: 'var(--brass)' } : undefined}
        onClick={() => matchSides(!matched)}
      >
        equally loud
      </button>
      <span
        className="small figure text-quiet"
        data-testid="compared"
        data-known={(['A', 'B'] as const).filter((s) => gains[s] !== null).join('')}
      >
        {by === null ? 'listen to both' : `B ${formatDb(by, 1, true)} LU`}
        {softer < -0.05 ? `, heard ${formatDb(softer, 1)}` : ''}
      </span>
    </div>
  );
}
