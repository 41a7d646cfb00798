import { ltRtGains, quadratureDelay, re } from '@/core/matrix';
import { LAYOUTS, type Layout } from '@/core/speakers';
import { MatrixRunner } from '../matrixRunner';
import type { StageKind } from '../stage';

export const ltRtType = (layout: Layout): string => `lt-rt/${layout.id}`;

/**
 * Encoders of a mix into Lt Rt, which stand in its first two channels; one for each layout. The engine places them by
 * itself.
 */
export const LT_RT: Readonly<Record<string, StageKind>> = Object.fromEntries(
  LAYOUTS.filter((l) => l.speakers.length > 2).map((layout): [string, StageKind] => [
    ltRtType(layout),
    {
      ...{ type: ltRtType(layout), name: 'Lt/Rt encoder', params: [], presets: [], startsOn: true },
      delay: (_, rate) => quadratureDelay(rate),
      tail: () => 2 * (quadratureDelay(48_000) / 48_000),
      summary: () => `${layout.name} into Lt Rt`,
      create: (k, rate, channels) =>
        new MatrixRunner(
          k,
          rate,
          channels,
          ltRtGains(layout).map((row) => [...row, ...Array.from({ length: channels - 2 }, () => re(0))]),
        ),
    },
  ]),
);
