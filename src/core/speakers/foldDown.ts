import { layoutOf } from './layoutOf';
import type { Layout, Speaker } from './layouts';
import { direction } from './triangles';

const HALF_POWER = Math.SQRT1_2;

/** What a fold-down does with what has no place of its own; linear gains. */
export interface FoldOptions {
  /** Centre into left and right. */
  centre: number;
  /** Surrounds (and heights) into the channel in front of or below them. */
  surround: number;
  /** LFE into left and right (or a centre alone), when the target has no LFE; 0 leaves it out. */
  lfe: number;
}

/** ITU-R BS.775: -3 dB each, LFE left out. */
export const ITU_FOLD: FoldOptions = { centre: HALF_POWER, surround: HALF_POWER, lfe: 0 };

/**
 * Gains from each channel of `from` (rows) to each of `to` (columns). Channels with the same label pass
 * at unity. To stereo: ITU-R BS.775, Lo = L + 0.7071 C + 0.7071 Ls, LFE left out. To mono: the same
 * paper's 0.7071 (L + R) + C + 0.5 (Ls + Rs); of plain stereo 0.7071 (L + R). What has no counterpart
 * goes to the nearest channel at the side it stands on; heights to those below them; what stands straight behind to both
 * sides, 3 dB down each. Nothing but an LFE is lost: in a layout without left and right the nearest speaker takes it.
 */
export function foldDown(from: Layout, to: Layout, options: FoldOptions = ITU_FOLD): number[][] {
  const columns = new Map(to.speakers.map((t, i) => [t.label, i]));
  return from.speakers.map((s) => {
    const row = rowOf(s);
    if (!s.lfe && !row.some((g) => g !== 0)) row[nearestTo(to, s)] = 1;
    return row;
  });

  function rowOf(s: Speaker): number[] {
    const row: number[] = to.speakers.map(() => 0);
    const put = (label: string, gain: number): boolean => {
      const at = columns.get(label);
      if (at !== undefined) row[at] = gain;
      return at !== undefined;
    };
    if (from === to || from.id === to.id) return to.speakers.map((t) => (t.label === s.label ? 1 : 0));
    if (s.lfe) {
      if (!put(s.label, 1) && options.lfe > 0 && !put('M', options.lfe)) {
        if (!put('L', options.lfe)) put('C', options.lfe);
        put('R', options.lfe);
      }
      return row;
    }
    if (to.id === 'mono') {
      const toMono =
        s.azimuth === 0 ? options.centre : Math.abs(s.azimuth) <= 60 ? HALF_POWER : options.surround / Math.SQRT2;
      // The whole is scaled so that the centre stands at unity, as in the recommendation.
      return [s.azimuth === 0 ? toMono / options.centre : toMono];
    }
    if (s.label === 'M') {
      if (!put('C', 1)) {
        put('L', HALF_POWER);
        put('R', HALF_POWER);
      }
      return row;
    }
    if (put(s.label, 1)) return row;
    if (s.azimuth === 0) {
      if (s.label !== 'C' && put('C', options.surround)) return row;
      put('L', options.centre);
      put('R', options.centre);
      return row;
    }
    const straightBehind = Math.abs(s.azimuth) > 179;
    const behindBoth = straightBehind && to.speakers.some((t) => t.label === 'Ls');
    if (straightBehind) {
      for (const label of behindBoth ? ['Ls', 'Rs'] : ['L', 'R'])
        put(label, HALF_POWER * (behindBoth ? 1 : options.surround));
      return row;
    }
    const side = s.azimuth > 0 ? 'L' : 'R';
    const sameSide = to.speakers.filter((t) => !t.lfe && t.azimuth !== 0 && t.azimuth > 0 === s.azimuth > 0);
    const nearest = (among: typeof sameSide) =>
      [...among].sort((a, b) => Math.abs(a.azimuth - s.azimuth) - Math.abs(b.azimuth - s.azimuth))[0];
    // Heights meet heights at unity before they come down.
    const above = s.elevation > 15 ? nearest(sameSide.filter((t) => t.elevation > 15)) : undefined;
    if (above && put(above.label, 1)) return row;
    const rear = Math.abs(s.azimuth) > 60;
    const behind = nearest(sameSide.filter((t) => t.elevation <= 15 && Math.abs(t.azimuth) > 60));
    if (rear && behind && put(behind.label, s.elevation > 15 ? options.surround : 1)) return row;
    put(side, options.surround);
    return row;
  }
}

/** Index of the speaker whose direction is nearest to that of another. */
function nearestTo(to: Layout, s: Speaker): number {
  const v = direction(s.azimuth, s.elevation);
  const closeness = to.speakers.map((t) => {
    const w = direction(t.azimuth, t.elevation);
    return t.lfe ? -2 : v[0] * w[0] + v[1] * w[1] + v[2] * w[2];
  });
  return closeness.indexOf(Math.max(...closeness));
}

/** Fold-down to stereo, the usual listening. */
export const toStereo = (from: Layout): number[][] => foldDown(from, layoutOf('stereo'));
