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

  /**
   * Listens to a take from its start, or from where it plays already; solo and mute of the session stay as they are. At
   * its end what played goes on with the comp; what stood goes back to where it stood.
   */
  hearTake(heard: Heard): void {
    const { engine, transport } = this;
    const { doc } = this.session.getState();
    const take = doc?.tracks.find((t) => t.id === heard.track)?.takes.find((t) => t.id === heard.take);
    const { state } = transport.state.getState();
    if (!doc || !take || state === 'recording' || state === 'starting') return;
    this.take.set(heard);
    const at = transport.position();
    const end = take.start + take.length;
    const within = at >= take.start && at < take.start + take.length;
    // A frozen track has no chain meanwhile that a take could go through.
    if (state !== 'playing') {
      void transport.playStretch({ start: within ? at : take.start, end });
      return;
    }
    if (within && !engine.frozen.has(heard.track)) engine.refresh(doc);
    else {
      transport.locate(within ? at : take.start);
      this.take.set(heard);
    }
    transport.at(end, () => this.backToComp());
  }

  private backToComp(): void {
    const { doc } = this.session.getState();
    const { track } = this.take;
    this.take.set(null);
    if (!doc || track === null) return;
    if (this.engine.frozen.has(track)) this.transport.locate(this.transport.position());
    else this.engine.refresh(doc);
  }

  /** Back to the comp. */
  hearComp(): void {
    if (this.take.track !== null) this.transport.stop();
  }
}
