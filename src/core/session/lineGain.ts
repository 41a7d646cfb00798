import type { LineSheet } from './document';
import { SHEET_PARAMS } from './params';

/** What a usual pad takes off (dB; common practice, no source). */
const PAD = -20;

/** How the gain of a line is to be set, and by how much that misses what was wanted (dB; 0: not at all). */
export interface GainSetting {
  gain: number;
  pad?: number;
  misses: number;
}

/**
 * The gain (and pad) of a line after a change of `by` dB: further down than the gain goes, the pad takes what is left;
 * beyond the ends of the preamplifier the rest is told.
 */
export function gainAfter({ gain, pad }: Pick<LineSheet, 'gain' | 'pad'>, by: number): GainSetting {
  const { min, max } = SHEET_PARAMS.gain;
  const wanted = gain + by;
  const padded = wanted < min && pad === 0;
  const exact = padded ? wanted - PAD : wanted;
  const set = Math.min(max, Math.max(min, exact));
  return { gain: set, ...(padded ? { pad: PAD } : {}), misses: exact - set };
}
