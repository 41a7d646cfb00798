import { MONITOR, type Bus, type SessionDoc } from '@/core/session';

export interface BusOrder {
  /** Every bus after all that feed it. */
  buses: Bus[];
  /** Buses whose link would close a circle; the engine leaves that link silent. */
  closing: Set<string>;
}

/** Puts buses into processing order, in document order where free. Cuts each loop at the link that closes it. */
export function busOrder(doc: SessionDoc): BusOrder {
  const closing = new Set<string>();
  const done: Bus[] = [];
  const state = new Map<string, 'open' | 'done'>();
  const feeders = (id: string) => doc.buses.filter((b) => b.destination === id);
  const visit = (bus: Bus) => {
    state.set(bus.id, 'open');
    for (const feeder of feeders(bus.id)) {
      if (state.get(feeder.id) === 'open') closing.add(feeder.id);
      else if (!state.has(feeder.id)) visit(feeder);
    }
    state.set(bus.id, 'done');
    done.push(bus);
  };
  for (const bus of doc.buses) if (!state.has(bus.id)) visit(bus);
  return { buses: done, closing };
}

/** Groups of buses that feed each other in a circle. */
export function loops(doc: SessionDoc): Bus[][] {
  const found: Bus[][] = [];
  const seen = new Set<string>();
  for (const bus of doc.buses) {
    const path: Bus[] = [];
    let at: Bus | undefined = bus;
    while (at && !seen.has(at.id) && !path.includes(at)) {
      path.push(at);
      const next: string | null = at.destination;
      at = next && next !== MONITOR ? doc.buses.find((b) => b.id === next) : undefined;
    }
    if (at && path.includes(at)) found.push(path.slice(path.indexOf(at)));
    path.forEach((b) => seen.add(b.id));
  }
  return found;
}
