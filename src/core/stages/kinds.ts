import { compressor } from './compressor';
import { deEsser } from './deEsser';
import { delay } from './delay';
import { eq } from './eq';
import { gate } from './gate';
import { highCut } from './highCut';
import { limiter } from './limiter';
import { lowCut } from './lowCut';
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
];

export function stageKind(type: string): StageKind {
  const found = STAGE_KINDS.find((s) => s.type === type);
  if (!found) throw new RangeError(`unknown stage "${type}"`);
  return found;
}
