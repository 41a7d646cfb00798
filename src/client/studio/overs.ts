import { createStore } from 'zustand/vanilla';
import type { MeterFrame } from '@/audio';
import { OVER, type Over } from '@/core/checks';
import { toDb } from '@/core/units';
import type { SessionAccess } from './access';
import type { Engine } from './engine';

/** What passed full scale before the chains of buses, counted and held until somebody clears it. */
export class Overs {
  readonly state = createStore<{ overs: Readonly<Record<string, Over>> }>(() => ({ overs: {} }));
  private readonly leave: () => void;

  constructor(
    private readonly session: SessionAccess,
    private readonly engine: Pick<Engine, 'events' | 'frozen'>,
    /** The sample that sounds now. */
    private readonly position: () => number,
  ) {
    this.engine.events.on('meters', (frame) => this.take(frame));
    // At another trim what was counted tells nothing any more.
    this.leave = session.subscribe(({ doc }, before) => {
      if (!doc || doc.buses === before.doc?.buses) return;
      const trims = new Map(before.doc?.buses.map((b) => [b.id, b.trim]));
      for (const b of doc.buses) if (trims.has(b.id) && trims.get(b.id) !== b.trim) this.clear(b.id);
    });
  }

  private take({ peaks }: MeterFrame): void {
    const { overs } = this.state.getState();
    let next: Record<string, Over> | null = null;
    for (const [id, { before }] of Object.entries(peaks)) {
      const peak = Math.max(0, ...before);
      if (peak <= OVER) continue;
      // What comes from a file has been through the chain already.
      if (this.engine.frozen.has(id)) continue;
      if (!this.session.getState().doc?.buses.some((b) => b.id === id)) continue;
      next ??= { ...overs };
      const known = next[id];
      const db = toDb(peak);
      next[id] =
        known && known.db >= db
          ? { ...known, count: known.count + 1 }
          : { count: (known?.count ?? 0) + 1, db, at: this.position() };
    }
    if (next) this.state.setState({ overs: next });
  }

  /** Clears what was counted of a bus, or of all. */
  clear(bus?: string): void {
    const { overs } = this.state.getState();
    if (bus === undefined) this.state.setState({ overs: {} });
    else if (overs[bus]) {
      const { [bus]: _gone, ...rest } = overs;
      this.state.setState({ overs: rest });
    }
  }

  close(): void {
    this.leave();
  }
}
