import type { SessionAccess } from './access';
import type { Engine } from './engine';
import type { Heard, HeardTake } from './heardTake';
import type { Transport } from './transport';

/** Listening to single takes. */
export class Hearing {
  constructor(
    private readonly session: SessionAccess,
    private readonly engine: Engine,
    private readonly transport: Transport,
    private readonly take: HeardTake,
  ) {
    transport.events.on('rolled', () => take.set(null));
  }

  /** Listens to a take from its start, or from where it plays already; solo and mute of the session stay as they are. */
  hearTake(heard: Heard): void {
    const { engine, transport } = this;
    const { doc } = this.session.getState();
    const take = doc?.tracks.find((t) => t.id === heard.track)?.takes.find((t) => t.id === heard.take);
    const { state } = transport.state.getState();
    if (!doc || !take || state === 'recording' || state === 'starting') return;
    this.take.set(heard);
    const at = transport.position();
    const within = at >= take.start && at < take.start + take.length;
    // A frozen track has no chain meanwhile that a take could go through.
    if (state === 'playing' && within && !engine.frozen.has(heard.track)) engine.refresh(doc);
    else if (state === 'playing') {
      transport.locate(within ? at : take.start);
      this.take.set(heard);
    } else {
      if (!within) transport.locate(take.start);
      void transport.play();
    }
  }

  /** Back to the comp. */
  hearComp(): void {
    if (this.take.track !== null) this.transport.stop();
  }
}
