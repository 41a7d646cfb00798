import { type Layout, layoutOf } from './layouts';

const HALF_POWER = Math.SQRT1_2;

/**
 * Gains from each channel of `from` (rows) to each of `to` (columns). Channels with the same label pass
 * at unity. To stereo: ITU-R BS.775, Lo = L + 0.7071 C + 0.7071 Ls, LFE left out. To mono: the same
 * paper's 0.7071 (L + R) + C + 0.5 (Ls + Rs); of plain stereo 0.7071 (L + R). What has no counterpart
 * goes to the nearest pair at the side it stands on.
 */
export function foldDown(from: Layout, to: Layout): number[][] {
  return from.speakers.map((s) => {
    const row = to.speakers.map(() => 0);
    const put = (label: string, gain: number): boolean => {
      const at = to.speakers.findIndex((t) => t.label === label);
      if (at >= 0) row[at] = gain;
      return at >= 0;
    };
    if (from.id === to.id) return to.speakers.map((t) => (t.label === s.label ? 1 : 0));
    if (to.id === 'mono') return [s.lfe ? 0 : s.azimuth === 0 ? 1 : Math.abs(s.azimuth) <= 60 ? HALF_POWER : 0.5];
    if (s.label === 'M') {
      if (!put('C', 1)) {
        put('L', HALF_POWER);
        put('R', HALF_POWER);
      }
      return row;
    }
    if (put(s.label, 1) || s.lfe) return row;
    if (s.label === 'C') {
      put('L', HALF_POWER);
      put('R', HALF_POWER);
      return row;
    }
    const side = s.azimuth > 0 ? 'L' : 'R';
    const rear = Math.abs(s.azimuth) > 60;
    if (rear && (put(`${side}s`, 1) || put(`${side}rs`, 1))) return row;
    put(side, HALF_POWER);
    return row;
  });
}

/** Fold-down to stereo, the usual listening. */
export const toStereo = (from: Layout): number[][] => foldDown(from, layoutOf('stereo'));
