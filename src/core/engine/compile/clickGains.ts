import type { Layout } from '@/core/speakers';

/**
 * Gains of the click to the loudspeakers of a layout: all of it from the one that is chosen; else from the centre, or from
 * left and right 3 dB down. A loudspeaker that the layout has not counts as none chosen.
 */
export function clickGains({ speakers }: Layout, to?: string): number[] {
  const at = (label: string) => speakers.findIndex((s) => s.label === label);
  const chosen = to === undefined ? -1 : at(to);
  const one = chosen >= 0 ? chosen : speakers.length === 1 ? 0 : at('C');
  if (one >= 0) return speakers.map((_, i) => (i === one ? 1 : 0));
  return speakers.map(({ label }) => (label === 'L' || label === 'R' ? Math.SQRT1_2 : 0));
}
