import type { Bus, SessionDoc } from './document';
import { MONITOR } from './document';

/** Whether leading bus `from` into `to` would make sound run in a circle. */
export function wouldLoop(doc: SessionDoc, from: string, to: string | null): boolean {
  const seen = new Set<string>();
  let at = to;
  while (at && at !== MONITOR && !seen.has(at)) {
    if (at === from) return true;
    seen.add(at);
    at = doc.buses.find((b) => b.id === at)?.destination ?? null;
  }
  return false;
}

/** The buses a sound passes from `destination` on, in order; stops at a loop. */
export function pathFrom(doc: SessionDoc, destination: string | null): Bus[] {
  const path: Bus[] = [];
  let at = destination;
  while (at && at !== MONITOR) {
    const bus = doc.buses.find((b) => b.id === at);
    if (!bus || path.includes(bus)) break;
    path.push(bus);
    at = bus.destination;
  }
  return path;
}

/** The stem a track's sound ends up in, if any. */
export const stemOfTrack = (doc: SessionDoc, destination: string | null): Bus | undefined =>
  pathFrom(doc, destination).find((b) => b.kind === 'stem');
