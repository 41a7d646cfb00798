import type { SessionDoc } from '@/core/session';
import { byGrade, type Check } from './check';
import { deviceCheck } from './deviceCheck';
import { heardCheck } from './heardCheck';
import { lineCheck } from './lineCheck';
import type { Live } from './live';
import { networkCheck } from './networkCheck';
import { rollCheck } from './rollCheck';
import { missingCheck } from './sourceCheck';

/** All that would spoil the next take: the roll check, and what is wrong with the lines that are about to be recorded. */
export function beforeRecording(doc: SessionDoc, live: Live): Check[] {
  const armed = doc.tracks.filter((t) => t.armed);
  const concerned = new Set<string | null>(armed.flatMap((t) => [t.id, ...t.inputs]));
  const lines = [...lineCheck(doc), ...deviceCheck(doc, live), ...heardCheck(doc, live), ...networkCheck(doc, live)];
  return byGrade([
    ...rollCheck(doc, live),
    ...missingCheck(doc, live),
    ...lines.filter((c) => c.about.some((id) => concerned.has(id))),
  ]);
}
