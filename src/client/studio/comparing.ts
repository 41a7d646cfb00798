import { createStore } from 'zustand/vanilla';
import { ChainLoudness, matchingGain } from '@/core/measure';
import type { Engine } from './engine';

export type Side = 'A' | 'B';

export interface Compared {
  /** Chain that is compared, and which side sounds; null: none. */
  chain: string | null;
  sounds: Side;
  /** LU by which each side makes things louder; null while not enough was heard. */
  gains: Record<Side, number | null>;
  /** Whether the louder side is heard softer. */
  matched: boolean;
}

/** What was changed needs so many stretches of 100 ms to reach the ears. */
const SETTLES = 5;
/** LU: smaller changes of what a side adds are not told. */
const TOLD_FROM = 0.1;

/** dB by which the side that sounds is heard softer. */
export const comparedGain = ({ chain, sounds, gains, matched }: Compared): number =>
  chain !== null && matched ? matchingGain(gains[sounds], gains[sounds === 'A' ? 'B' : 'A']) : 0;

/** Two settings of a chain against each other, brought level so that the louder one does not win by being louder. */
export class Comparing {
  readonly state = createStore<Compared>(() => ({
    chain: null,
    sounds: 'A',
    gains: { A: null, B: null },
    matched: true,
  }));
  private settling = 0;
  private heard: Record<Side, ChainLoudness> = { A: new ChainLoudness(), B: new ChainLoudness() };

  constructor(engine: Pick<Engine, 'events' | 'player'>) {
    this.state.subscribe((now, before) => {
      if (comparedGain(now) !== comparedGain(before)) engine.player?.hear(comparedGain(now));
    });
    engine.events.on('meters', ({ probe }) => {
      if (probe) this.take(probe.before, probe.after);
    });
  }

  private take(before: number[], after: number[]): void {
    const { chain, sounds, gains } = this.state.getState();
    if (chain === null || before.length === 0) return;
    const skip = Math.min(this.settling, before.length);
    this.settling -= skip;
    this.heard[sounds].take(before.slice(skip), after.slice(skip));
    const gain = this.heard[sounds].gain;
    if (gain === null || (gains[sounds] !== null && Math.abs(gain - gains[sounds]) < TOLD_FROM)) return;
    this.state.setState({ gains: { ...gains, [sounds]: gain } });
  }

  /** Which side of which chain sounds from now on. */
  side(chain: string, sounds: Side): void {
    if (this.state.getState().chain !== chain) {
      this.heard = { A: new ChainLoudness(), B: new ChainLoudness() };
      this.state.setState({ gains: { A: null, B: null } });
    }
    this.settling = SETTLES;
    this.state.setState({ chain, sounds });
  }

  /** A side was changed: what was heard of it before tells nothing any more. */
  forget(sounds: Side): void {
    this.heard[sounds] = new ChainLoudness();
    this.settling = SETTLES;
    this.state.setState((s) => ({ gains: { ...s.gains, [sounds]: null } }));
  }

  match(matched: boolean): void {
    this.state.setState({ matched });
  }

  end(): void {
    this.state.setState({ chain: null });
  }
}
