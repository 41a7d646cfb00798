import { compressor } from './compressor';
import { deEsser } from './deEsser';
import { delay } from './delay';
import { eq } from './eq';
import { fourDecoder, fourEncoder } from './fourInTwo';
import { gate } from './gate';
import { headKind } from './head';
import { highCut } from './highCut';
import { limiter } from './limiter';
import { APPLIERS, DETECTORS } from './linked';
import { lowCut } from './lowCut';
import { LT_RT } from './ltRt';
import { reverb } from './reverb';
import type { StageKind } from './stage';
import { trim } from './trim';

/** Every stage there is, in the usual order of a voice chain. Adding one is one folder and one line here. */
export const STAGE_KINDS: readonly StageKind[] = [
  trim,
  lowCut,
  gate,
  eq,
  highCut,
  deEsser,
  compressor,
  delay,
  reverb,
  limiter,
  fourEncoder,
  fourDecoder,
];

/** Stages that the engine places by itself; no chain holds them. */
const INNER: readonly StageKind[] = [...Object.values(DETECTORS), ...Object.values(APPLIERS), ...Object.values(LT_RT)];

const byType = new Map([...STAGE_KINDS, ...INNER].map((s) => [s.type, s]));

/** The kind of a stage. Throws RangeError for one that does not exist. */
export function stageKind(type: string): StageKind {
  const found = byType.get(type) ?? headKind(type);
  if (!found) throw new RangeError(`unknown stage "${type}"`);
  return found;
}
