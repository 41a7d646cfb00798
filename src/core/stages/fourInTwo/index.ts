import { DECODE_FOUR, ENCODE_FOUR, quadratureDelay, re, type ComplexGains } from '@/core/matrix';
import { MatrixRunner } from '../matrixRunner';
import type { StageKind } from '../stage';

const FOUR = 4;
const NOTHING = re(0);

/** Every channel to itself: at other widths than four there is nothing to encode. */
const straight = (channels: number): ComplexGains =>
  Array.from({ length: channels }, (_, i) => Array.from({ length: channels }, (_, o) => re(i === o ? 1 : 0)));

const ENCODER: ComplexGains = ENCODE_FOUR.map((row) => [...row, NOTHING, NOTHING]);
const DECODER: ComplexGains = [...DECODE_FOUR, ...[0, 1].map(() => Array.from({ length: FOUR }, () => NOTHING))];

type Part = Pick<StageKind, 'type' | 'name'> & { gains: ComplexGains; says: string };

const part = ({ type, name, gains, says }: Part): StageKind => ({
  ...{ type, name, params: [], presets: [], startsOn: true },
  delay: (_, rate) => quadratureDelay(rate),
  tail: () => 2 * (quadratureDelay(48_000) / 48_000),
  summary: () => says,
  create: (k, rate, channels) => new MatrixRunner(k, rate, channels, channels === FOUR ? gains : straight(channels)),
});

/** Four channels (L R Ls Rs) to two that stand in the first and second; the others are silent. Of a quad bus or track. */
export const fourEncoder = part({
  ...{ type: 'fourEncoder', name: 'Four in two: encoder', gains: ENCODER },
  says: 'L R Ls Rs into two, regular matrix',
});

/** The two back to four. */
export const fourDecoder = part({
  ...{ type: 'fourDecoder', name: 'Four in two: decoder', gains: DECODER },
  says: 'the first two into L R Ls Rs',
});
