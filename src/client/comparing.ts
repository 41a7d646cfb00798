import { create } from 'zustand';
import { ChainLoudness, matchingGain } from '@/core/measure';
import { listeners, playerNow } from './engine';

export type Side = 'A' | 'B';

interface Comparing {
  /** Chain that is compared, and which side sounds; null: none. */
  chain: string | null;
  sounds: Side;
  /** LU by which each side makes things louder; null while not enough was heard. */
  gains: Record<Side, number | null>;
  /** Whether the louder side is heard softer. */
  matched: boolean;
}

/** Two settings of a chain against each other, brought level so that the louder one does not win by being louder. */
export const useComparing = create<Comparing>(() => ({
  chain: null,
  sounds: 'A',
  gains: { A: null, B: null },
  matched: true,
}));

/** What was changed needs so many stretches of 100 ms to reach the ears. */
const SETTLES = 5;
let settling = 0;
let heard: Record<Side, ChainLoudness> = { A: new ChainLoudness(), B: new ChainLoudness() };

/** dB by which the side that sounds is heard softer. */
export const comparedGain = ({ chain, sounds, gains, matched }: Comparing): number =>
  chain !== null && matched ? matchingGain(gains[sounds], gains[sounds === 'A' ? 'B' : 'A']) : 0;

useComparing.subscribe((now, before) => {
  if (comparedGain(now) !== comparedGain(before)) playerNow()?.hear(comparedGain(now));
});

listeners.meters.add(({ probe }) => {
  const { chain, sounds, gains } = useComparing.getState();
  if (chain === null || !probe || probe.before.length === 0) return;
  const skip = Math.min(settling, probe.before.length);
  settling -= skip;
  heard[sounds].take(probe.before.slice(skip), probe.after.slice(skip));
  const gain = heard[sounds].gain;
  if (gain === null || (gains[sounds] !== null && Math.abs(gain - gains[sounds]) < 0.1)) return;
  useComparing.setState({ gains: { ...gains, [sounds]: gain } });
});

/** Which side of which chain sounds from now on. */
export function compareSide(chain: string, sounds: Side): void {
  if (useComparing.getState().chain !== chain) {
    heard = { A: new ChainLoudness(), B: new ChainLoudness() };
    useComparing.setState({ gains: { A: null, B: null } });
  }
  settling = SETTLES;
  useComparing.setState({ chain, sounds });
}

/** A side was changed: what was heard of it before tells nothing any more. */
export function forgetSide(sounds: Side): void {
  heard[sounds] = new ChainLoudness();
  settling = SETTLES;
  useComparing.setState((s) => ({ gains: { ...s.gains, [sounds]: null } }));
}

export const endComparing = (): void => useComparing.setState({ chain: null });
