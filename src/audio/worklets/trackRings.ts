import type { Engine } from '@/core/engine';
import type { Kernels } from '@/core/kernels';
import { Ring, type RingMemory } from '../ring';

interface Fed {
  track: string;
  ring: Ring;
  /** Frames that came too late: when they are there, their time is over. */
  behind: number;
}

/** The sound of the tracks' clips, as the feeder lays it into rings. */
export class TrackRings {
  private rings: Fed[] = [];

  constructor(private readonly k: Kernels) {}

  set(rings: readonly { track: string; ring: RingMemory }[]): void {
    this.rings = rings.map((r) => ({ track: r.track, ring: new Ring(r.ring), behind: 0 }));
  }

  /** Whether every track has its next `n` frames. */
  ready(n: number): boolean {
    return this.rings.every(({ ring }) => ring.available >= n);
  }

  /** A new roll begins with the frames that are laid in for it. */
  restart(): void {
    for (const fed of this.rings) fed.behind = 0;
  }

  /**
   * Gives each track its next `n` frames; returns how many tracks had to stay silent, because theirs are not there.
   * What comes too late is passed over: afterwards everything sounds at its time again.
   */
  feed(engine: Engine, n: number): number {
    let silent = 0;
    for (const fed of this.rings) {
      const { track, ring } = fed;
      const past = Math.min(fed.behind, ring.available);
      if (past > 0) {
        ring.took(past);
        fed.behind -= past;
      }
      if (ring.available < n) {
        silent++;
        fed.behind += n;
        continue;
      }
      if (engine.has(track)) {
        const { buffer } = engine.node(track);
        const channels = Math.min(buffer.channels, ring.channels);
        for (let c = 0; c < channels; c++) ring.take(c, this.k.heap, buffer.at(c) >> 2, n);
      }
      ring.took(n);
    }
    return silent;
  }
}
