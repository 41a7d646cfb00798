import type { SessionDoc } from '@/core/session';
import { briefCheck } from './briefCheck';
import { clickCheck } from './clickCheck';
import { deviceCheck } from './deviceCheck';
import { heardCheck } from './heardCheck';
import { lineCheck } from './lineCheck';
import { networkCheck } from './networkCheck';
import { byGrade, type Check, type Place } from './check';
import { oversCheck } from './oversCheck';
import { orderCheck } from './orderCheck';
import { pictureCheck } from './pictureCheck';
import { pathAudit } from './pathAudit';
import { printCheck } from './printCheck';
import type { Live } from './live';
import { roomCheck } from './roomCheck';
import { rollCheck } from './rollCheck';
import { missingCheck } from './sourceCheck';

export type Dot = 'grey' | 'green' | 'amber' | 'red';

/** All checks that run on a session all the time; roll checks only while a track is armed. */
export function allChecks(doc: SessionDoc, live: Live): Check[] {
  const roll = doc.tracks.some((t) => t.armed) ? rollCheck(doc, live) : [];
  return byGrade([
    ...briefCheck(doc),
    ...clickCheck(doc),
    ...pictureCheck(doc),
    ...lineCheck(doc),
    ...deviceCheck(doc, live),
    ...heardCheck(doc, live),
    ...networkCheck(doc, live),
    ...roll,
    ...missingCheck(doc, live),
    ...orderCheck(doc),
    ...pathAudit(doc),
    ...oversCheck(doc, live),
    ...roomCheck(live),
    ...printCheck(doc),
  ]);
}

/** The dot of each place: its gravest check, or whether anything was done there. */
export function placeDots(doc: SessionDoc, checks: readonly Check[], printed: boolean): Record<Place, Dot> {
  const touched: Record<Place, boolean> = {
    brief: true,
    lineup: doc.tracks.some((t) => t.inputs.some((i) => i !== null)),
    floor: doc.tracks.some((t) => t.clips.length > 0),
    flow: doc.tracks.length > 0,
    room: doc.tracks.some((t) => t.placement.azimuth !== 0 || t.placement.distance !== 1),
    print: printed,
  };
  const dot = (place: Place): Dot => {
    const here = checks.filter((c) => c.place === place);
    if (here.some((c) => c.grade === 'stop')) return 'red';
    if (here.some((c) => c.grade === 'warn')) return 'amber';
    return touched[place] ? 'green' : 'grey';
  };
  const places: Place[] = ['brief', 'lineup', 'floor', 'flow', 'room', 'print'];
  return Object.fromEntries(places.map((p) => [p, dot(p)])) as Record<Place, Dot>;
}
