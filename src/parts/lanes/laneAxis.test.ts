import { expect, it } from 'vitest';
import {
  CLICK_PARAMS,
  LINKED_PARAMS,
  MUTED,
  PLACEMENT_PARAMS,
  SEND_PARAMS,
  TRACK_PARAMS,
  type Param,
} from '@/core/session';
import { STAGE_KINDS } from '@/core/stages';
import { laneAxis } from './laneAxis';

const ALL: Param[] = [
  TRACK_PARAMS.level,
  SEND_PARAMS.level,
  CLICK_PARAMS.level,
  MUTED,
  ...Object.values(PLACEMENT_PARAMS),
  ...Object.values(LINKED_PARAMS),
  ...STAGE_KINDS.flatMap((k) => k.params),
];

it.each(ALL.map((p) => [p.label, p] as const))(
  '%s: rises from bottom to top, and is read as it is drawn',
  (_, param) => {
    const axis = laneAxis(param);
    expect(axis.fromShare(0)).toBeCloseTo(param.choices ? 0 : param.min, 6);
    let before = -Infinity;
    for (let i = 0; i <= 20; i++) {
      const value = axis.fromShare(i / 20);
      expect(value).toBeGreaterThanOrEqual(before);
      expect(value).toBeLessThanOrEqual(param.choices ? param.choices.length - 1 : param.max + 1e-9);
      if (i > 0 && !param.choices) expect(axis.toShare(value)).toBeCloseTo(i / 20, 6);
      before = value;
    }
  },
);

it('levels under -60 dB stand at the bottom, and the bottom is silence', () => {
  const axis = laneAxis(TRACK_PARAMS.level);
  expect([axis.toShare(-80), axis.fromShare(0), axis.toShare(12), axis.toShare(20)]).toEqual([0, -100, 1, 1]);
});
