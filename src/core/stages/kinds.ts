import { compressor } from './compressor';
import { eq } from './eq';
import { gate } from './gate';
import { limiter } from './limiter';
import { lowCut } from './lowCut';
import type { StageKind } from './stage';

/** Every stage there is, in the usual order of a voice chain. Adding one is one folder and one line here. */
export const STAGE_KINDS: readonly StageKind[] = [lowCut, gate, eq, compressor, limiter];

export function stageKind(type: string): StageKind {
  const found = STAGE_KINDS.find((s) => s.type === type);
  if (!found) throw new RangeError(`unknown stage "${type}"`);
  return found;
}
