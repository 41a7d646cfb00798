import type { TakeGap } from '@/core/session';

/** What the file of a take says where nothing was noted. */
export const USUAL_NOTE = 'Through the chain of the line';

/** "Sound missing: 0.50 s at 12.10 s"; empty for a take without a gap. */
export const gapNote = (gaps: readonly TakeGap[] | undefined, rate: number): string =>
  gaps?.length
    ? `Sound missing: ${gaps.map((g) => `${(g.frames / rate).toFixed(2)} s at ${(g.at / rate).toFixed(2)} s`).join(', ')}`
    : '';
