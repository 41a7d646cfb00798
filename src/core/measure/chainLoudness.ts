import { toLufs } from './loudness';

/** What comes in softer than this tells nothing of a chain (LUFS). */
const HEARD_FROM = -50;
/** Stretches of 100 ms that a figure needs: a chain with dynamics does something else to every syllable. */
const ENOUGH = 40;

/**
 * By how many LU a chain makes louder what goes through it: weighted powers (ITU-R BS.1770) of what comes out and of
 * what goes in, over the stretches in which something goes in. What the performer says meanwhile needs not be the same.
 */
export class ChainLoudness {
  private in = 0;
  private out = 0;
  private stretches = 0;

  /** Weighted mean squares of the same 100 ms stretches before and after the chain. */
  take(before: readonly number[], after: readonly number[]): void {
    for (let i = 0; i < Math.min(before.length, after.length); i++) {
      if (toLufs(before[i]!) < HEARD_FROM) continue;
      this.in += before[i]!;
      this.out += after[i]!;
      this.stretches++;
    }
  }

  /** LU; null until four seconds were heard. */
  get gain(): number | null {
    return this.stretches < ENOUGH ? null : 10 * Math.log10(this.out / this.in);
  }
}

/** dB by which a side is heard softer so that two sides are equally loud; the softer one is never raised. */
export const matchingGain = (own: number | null, other: number | null): number =>
  own === null || other === null ? 0 : Math.min(0, other - own);
