import { isSwitched, type Param } from '@/core/session';

/** Where values of a lane stand: 0 at the bottom, 1 at the top. */
export interface LaneAxis {
  toShare(value: number): number;
  fromShare(share: number): number;
  /** Values that are marked by a line. */
  marks: readonly number[];
}

/** Levels are drawn from here on; what is lower stands at the bottom, and the bottom is silence (dB). */
const QUIETEST = -60;
const LOUDEST = 12;

const within = (x: number): number => Math.min(1, Math.max(0, x));

/** How a parameter's values are drawn: levels from -60 dB, frequencies and times in octaves, choices as steps. */
export function laneAxis(param: Param): LaneAxis {
  const { min, max, unit, log } = param;
  if (isSwitched(param)) {
    const last = Math.max(1, param.choices!.length - 1);
    return { toShare: (v) => within(v / last), fromShare: (s) => Math.round(within(s) * last), marks: [] };
  }
  if (unit === 'dB' && min <= QUIETEST) {
    const top = Math.min(max, LOUDEST);
    return {
      toShare: (v) => within((v - QUIETEST) / (top - QUIETEST)),
      fromShare: (s) => (s <= 0.001 ? min : QUIETEST + within(s) * (top - QUIETEST)),
      marks: [0, -20, -40].filter((m) => m < top),
    };
  }
  if (log && min > 0)
    return {
      toShare: (v) => within(Math.log(v / min) / Math.log(max / min)),
      fromShare: (s) => min * (max / min) ** within(s),
      marks: [],
    };
  return {
    toShare: (v) => within((v - min) / (max - min)),
    fromShare: (s) => min + within(s) * (max - min),
    marks: min < 0 && max > 0 ? [0] : [],
  };
}
