import type { LoudnessLimits } from './document';
import { formatDb } from '@/core/units';

/** EBU R 128: -23 LUFS, within 0.5 LU where it can be reached, at most -1 dBTP. */
export const R128: LoudnessLimits = { name: 'R 128', target: -23, tolerance: 0.5, truePeak: -1 };

/** ATSC A/85: -24 LKFS, within 2 LU, at most -2 dBTP. */
export const A85: LoudnessLimits = { name: 'A/85', target: -24, tolerance: 2, truePeak: -2 };

/** No loudness is asked; only full scale is kept free. */
export const PEAKS_ONLY: LoudnessLimits = { name: 'peaks only', target: null, tolerance: 0, truePeak: -1 };

export const KNOWN_LIMITS: readonly LoudnessLimits[] = [R128, A85, PEAKS_ONLY];

/** "R 128, -23.0 LUFS ±0.5". */
export const loudnessText = ({ name, target, tolerance }: LoudnessLimits): string =>
  target === null ? `${name}, no loudness` : `${name}, ${formatDb(target)} LUFS ±${tolerance}`;
