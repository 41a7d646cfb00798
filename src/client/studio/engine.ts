import mitt from 'mitt';
import { toast } from 'sonner';
import { Player, type MeterFrame } from '@/audio';
import { compilePlan, type CompileOptions, type HeardAs } from '@/core/engine';
import { Kernels } from '@/core/kernels';
import { orderedMedia, playedOf, type FrozenNodes, type SessionDoc, type Track } from '@/core/session';
import type { SessionAccess } from './access';
import { frozenHeard } from './frozenHeard';
import type { HeardTake } from './heardTake';

export type Rolling = 'no' | 'playing' | 'recording';

// A type, not an interface: the emitter asks for an index.
export type EngineEvents = {
  /** Sound runs. */
  started: Player;
  meters: MeterFrame;
  /** A session is at work in the engine from this frame of the roll on. */
  loaded: { doc: SessionDoc; rolled: number };
  stopped: { rolled: number };
  punched: { way: 'in' | 'out'; at: number; before: Record<string, number> };
  /** What rolls now, from here on. */
  rolling: Rolling;
  /** Tracks came or went: what rolls must stop. */
  reshaped: undefined;
  /** Tracks or buses are frozen or thawed while it plays: what is heard must be laid out anew. */
  thawed: undefined;
  /** Sound ended, and begins anew with the next key. */
  dropped: undefined;
};

/** Between two layouts of a session lies so many times what one takes. */
const SHARE = 3;

const LATENCY = { short: 'interactive', middle: 'balanced', long: 'playback' } as const;

const sameFrozen = (a: FrozenNodes, b: FrozenNodes): boolean =>
  a.size === b.size && [...a].every(([id, f]) => b.get(id)?.media === f.media);

/** The sound of an open session: one player, whose plan follows the document. */
export class Engine {
  readonly events = mitt<EngineEvents>();
  private starting: Promise<Player> | null = null;
  private running: Player | null = null;
  private made: Kernels | null = null;
  private rolling: Rolling = 'no';
  /** Tracks and buses that play from files. While something is recorded they stay as they were when it began. */
  private frozenNodes: FrozenNodes = new Map();
  /** Plans on their way to the engine, with the session that each was made of. */
  private readonly loading = new Map<number, SessionDoc>();
  private loads = 0;
  private watched: [node: string, stage: string | null] | null = null;
  private waiting = false;
  /** When it was laid out last, and how long that took (ms). */
  private reloaded = { at: 0, took: 0 };
  private closed = false;
  private readonly unfollow: () => void;

  constructor(
    private readonly session: SessionAccess,
    private readonly heardTake: HeardTake,
    private readonly start: typeof Player.start = (...args) => Player.start(...args),
  ) {
    this.unfollow = session.subscribe((now, before) => this.follow(now.doc, before.doc));
  }

  /** The player, where sound was started. */
  get player(): Player | null {
    return this.running;
  }

  get kernels(): Kernels | null {
    return this.made;
  }

  get frozen(): FrozenNodes {
    return this.frozenNodes;
  }

  /** Tracks as they are heard from disk. */
  tracksHeard(doc: SessionDoc): Track[] {
    return this.heardTake.tracks(playedOf(doc, this.frozenNodes));
  }

  /** Clips or files changed while playing. */
  refresh(doc: SessionDoc): void {
    this.running?.refresh(this.tracksHeard(doc), orderedMedia(doc));
  }

  /** Starts sound on first use; must come from a click or key. */
  sound(): Promise<Player> {
    if (this.closed) return Promise.reject(new Error('The session was closed.'));
    this.starting ??= this.begin();
    this.starting.catch(() => (this.starting = null));
    return this.starting;
  }

  private async begin(): Promise<Player> {
    const { events } = this;
    const { format, settings } = this.session.getState().doc!;
    const player = await this.start(
      format.sampleRate,
      {
        onMeters: (frame) => events.emit('meters', frame),
        onPunched: (way, at, before) => events.emit('punched', { way, at, before }),
        onLoaded: (serial, rolled) => this.tellLoaded(serial, rolled),
        onStopped: (rolled) => events.emit('stopped', { rolled }),
        onTrouble: (message) => toast.warning(message, { id: 'feeder' }),
      },
      LATENCY[settings.buffer],
    );
    if (this.closed) {
      player.end();
      throw new Error('The session was closed.');
    }
    this.running = player;
    this.made = new Kernels(player.module);
    // For support and tests: what a node gives, sample by sample, from where rolling begins.
    Object.assign(globalThis, {
      wideRoom: { capture: (node: string, frames: number) => player.capture(node, frames) },
    });
    if (this.watched) player.watch(...this.watched);
    this.reload();
    events.emit('started', player);
    return player;
  }

  private tellLoaded(serial: number, rolled: number): void {
    const doc = this.loading.get(serial);
    this.loading.delete(serial);
    if (doc && rolled >= 0) this.events.emit('loaded', { doc, rolled });
  }

  /** Looks at a chain while it is drawn; returns what ends it. */
  watch(node: string, stage: string | null): () => void {
    const mine: typeof this.watched = [node, stage];
    this.watched = mine;
    this.running?.watch(node, stage);
    return () => {
      if (this.watched !== mine) return;
      this.watched = null;
      this.running?.watch(null, null);
    };
  }

  setRolling(now: Rolling): void {
    this.rolling = now;
    const { doc } = this.session.getState();
    if (doc && !this.closed) this.frozenNodes = this.freezable(doc);
    this.events.emit('rolling', now);
    this.reload();
  }

  private freezable(doc: SessionDoc): FrozenNodes {
    return frozenHeard(doc, this.heardTake.track);
  }

  /** Whether what plays was laid out with other tracks and buses frozen than the session has now. */
  isThawed(): boolean {
    const { doc } = this.session.getState();
    return this.rolling === 'playing' && doc !== null && !sameFrozen(this.frozenNodes, this.freezable(doc));
  }

  private inRoom: CompileOptions['room'] = null;
  private asHeard: Pick<CompileOptions, 'heardAs' | 'head'> = {};

  /** The room that is played in; null: two ears. */
  hearIn(room: CompileOptions['room']): void {
    if (JSON.stringify(room) === JSON.stringify(this.inRoom)) return;
    this.inRoom = room;
    this.reload();
  }

  /** What the monitor is listened to as, and whether two ears hear loudspeakers around a head. */
  hearAs(heardAs: HeardAs | null, head: boolean): void {
    this.asHeard = { heardAs, head };
    this.reload();
  }

  /** Compiles the session as shown and hands the plan to the player. */
  reload(): void {
    const { doc } = this.session.getState();
    const { running, made } = this;
    if (!running || !made || !doc || this.closed) return;
    if (doc.format.sampleRate !== running.context.sampleRate) {
      this.drop();
      return;
    }
    const began = performance.now();
    if (this.rolling === 'no') this.frozenNodes = this.freezable(doc);
    if (running.fit(playedOf(doc, this.frozenNodes).tracks)) this.events.emit('reshaped');
    const plan = compilePlan(made, doc, {
      mode: 'live',
      rolling: this.rolling !== 'no',
      recording: this.rolling === 'recording',
      frozen: this.frozenNodes,
      room: this.inRoom,
      ...this.asHeard,
    });
    running.load(plan, ++this.loads);
    this.loading.set(this.loads, doc);
    const at = performance.now();
    this.reloaded = { at, took: at - began };
  }

  // The session runs at another rate now: sound starts anew with the next key.
  private drop(): void {
    const old = this.running;
    this.running = null;
    this.starting = null;
    this.loading.clear();
    old?.end();
    this.events.emit('reshaped');
    this.events.emit('dropped');
  }

  private follow(doc: SessionDoc | null, before: SessionDoc | null): void {
    if (doc === before) return;
    // A chain must not change before the clips that go through it: both begin anew.
    if (this.isThawed()) {
      this.events.emit('thawed');
      return;
    }
    this.reloadSoon();
    const clips = doc?.tracks.map((t) => t.clips);
    const earlier = before?.tracks.map((t) => t.clips);
    // While recording the lanes stay as they were laid out: a take that has just ended must not sound under the next.
    const moved = doc?.media !== before?.media || earlier?.some((c, i) => c !== clips?.[i]);
    if (this.rolling === 'playing' && doc && before && moved) this.refresh(doc);
  }

  /** The session is about to be left: what plays stays as it is until it has ended. */
  leave(): void {
    this.closed = true;
    this.unfollow();
  }

  // While something is dragged a large session is laid out as often as leaves time for drawing it.
  private reloadSoon(): void {
    if (this.waiting) return;
    this.waiting = true;
    const rest = this.reloaded.at + SHARE * this.reloaded.took - performance.now();
    const go = () => {
      this.waiting = false;
      this.reload();
    };
    if (rest > 0) setTimeout(go, rest);
    else requestAnimationFrame(go);
  }

  /** Ends all sound of the session. */
  close(): void {
    this.leave();
    this.running?.end();
    this.running = null;
    this.starting = null;
  }
}
