import { createStore } from 'zustand/vanilla';
import { laneValue, thinned, type LanePoint } from '@/core/lanes';
import { isSwitched, laneKey, laneParam, valueAt, type LaneTarget, type SessionDoc } from '@/core/session';
import type { SessionAccess } from './access';
import type { Engine } from './engine';
import type { Transport } from './transport';

/** 'held': what is moved is written as long as it is held. 'on': from then on until it stops. */
export type RideMode = 'off' | 'held' | 'on';

/** Within so many seconds a control that is let go comes back to its lane, and a plan's changes have arrived. */
const RETURN = 0.1;
const GLIDE = 0.02;
/** Beyond all time: while something is ridden, what the lane had later does not count. */
const FAR = 2 ** 50;

/** A point of a ride; its number tells it from its neighbours wherever the row changes. */
interface Moved extends LanePoint {
  readonly number: number;
  /** Its place is known from the engine. */
  readonly heard: boolean;
}

interface Riding {
  target: LaneTarget;
  mode: RideMode;
  /** The lane as it was. */
  before: readonly LanePoint[];
  from: number;
  points: Moved[];
  /** Which point each document on its way to the engine holds last. */
  sent: WeakMap<SessionDoc, Moved>;
}

/** Moves of controls, written into lanes while sound runs. */
export class Ride {
  readonly state = createStore<{ modes: Readonly<Record<string, RideMode>>; riding: string | null }>(() => ({
    modes: {},
    riding: null,
  }));
  private now: Riding | null = null;

  constructor(
    private readonly session: SessionAccess,
    engine: Pick<Engine, 'events'>,
    private readonly transport: Transport,
  ) {
    transport.events.on('rolled', () => this.finish(true));
    engine.events.on('loaded', ({ doc, rolled }) => this.heard(doc, rolled));
  }

  modeOf(target: LaneTarget): RideMode {
    return this.state.getState().modes[laneKey(target)] ?? 'off';
  }

  setMode(target: LaneTarget, mode: RideMode): void {
    this.state.setState(({ modes }) => ({ modes: { ...modes, [laneKey(target)]: mode } }));
  }

  /**
   * Where a control stands that is being ridden; null: it is not. The lane at the playhead does not tell: what was moved last
   * is written a little ahead of it.
   */
  valueOf(target: LaneTarget): number | null {
    return this.now && laneKey(this.now.target) === laneKey(target) ? this.now.points.at(-1)!.value : null;
  }

  private get rolls(): boolean {
    const { state } = this.transport.state.getState();
    return state === 'playing' || state === 'recording';
  }

  /** A control was moved: true where that is a ride, and is heard and written. */
  move(target: LaneTarget, value: number): boolean {
    const { doc } = this.session.getState();
    const mode = this.modeOf(target);
    if (mode === 'off' || !this.rolls || !doc) return false;
    const at = Math.round(this.transport.ahead());
    if (
      this.now &&
      (laneKey(this.now.target) !== laneKey(target) || at <= this.now.points.at(-1)!.at - RETURN * this.rate)
    )
      this.finish(true);
    const riding = (this.now ??= this.begin(doc, target, mode, at));
    const last = riding.points.at(-1)!;
    const meets = Math.round(GLIDE * this.rate);
    const shape = this.shape(doc, target);
    const moved: Moved = {
      at: Math.max(at, last.at + (riding.points.length === 1 ? meets : 1)),
      value,
      shape,
      number: last.number + 1,
      heard: false,
    };
    riding.points.push(moved);
    this.session.preview({ type: 'writeLane', target, from: riding.from, to: FAR, points: this.written(riding) });
    const sent = this.session.getState().doc;
    if (sent) riding.sent.set(sent, moved);
    return true;
  }

  private get rate(): number {
    return this.session.getState().doc?.format.sampleRate ?? 48_000;
  }

  private shape(doc: SessionDoc, target: LaneTarget): LanePoint['shape'] {
    const param = laneParam(doc, target);
    return param && isSwitched(param) ? 'step' : 'line';
  }

  private begin(doc: SessionDoc, target: LaneTarget, mode: RideMode, from: number): Riding {
    this.state.setState({ riding: laneKey(target) });
    const before = doc.lanes[laneKey(target)]?.points ?? [];
    const value = valueAt(doc, target, from);
    const first: Moved = { at: from, value, shape: this.shape(doc, target), number: 0, heard: true };
    return { target, mode, before, from, points: [first], sent: new WeakMap() };
  }

  // A point stands where the engine really began to sound like it; what never reached it was never heard.
  private heard(doc: SessionDoc, rolled: number): void {
    const riding = this.now;
    const moved = riding?.sent.get(doc);
    if (!riding || !moved) return;
    const at = Math.round(this.transport.sampleOf(rolled) + GLIDE * this.rate);
    // What was followed by another before the engine had it was never heard.
    const row = riding.points.filter((p, i) => i === 0 || (p.number < moved.number && p.heard && p.at < at));
    // Two points in one place would be no lane: all that was ridden would be refused. What was moved after this one, and
    // is not told yet, stands behind it wherever it was thought to be.
    for (const p of [{ ...moved, at, heard: true }, ...riding.points.filter((p) => p.number > moved.number)])
      row.push({ ...p, at: Math.max(p.at, row.at(-1)!.at + 1) });
    riding.points = row;
  }

  /** The points of a ride, without those that cannot be told apart from a straight line. */
  private written({ points, target }: Riding): LanePoint[] {
    const { doc } = this.session.getState();
    const param = doc && laneParam(doc, target);
    // Held values are no straight lines.
    const row = points.map(({ at, value, shape }) => ({ at, value, shape }));
    return !param || isSwitched(param) ? row : thinned(row, param.step / 2);
  }

  /** A control was let go; true where that was a ride. */
  release(target: LaneTarget): boolean {
    if (!this.now || laneKey(this.now.target) !== laneKey(target)) return false;
    if (this.now.mode === 'held') this.finish(false);
    return true;
  }

  /** Writes what was ridden. `stopped`: sound ended, and with it what goes on until then. */
  private finish(stopped: boolean): void {
    const riding = this.now;
    if (!riding) return;
    this.now = null;
    this.state.setState({ riding: null });
    const { target, before, from, mode, points } = riding;
    const end = Math.max(
      points.at(-1)!.at,
      stopped ? Math.round(this.transport.position()) : Math.round(this.transport.ahead()),
    );
    const { value, shape } = points.at(-1)!;
    const written = this.written(riding);
    if (end > written.at(-1)!.at) written.push({ at: end, value, shape });
    const back = end + Math.round(RETURN * this.rate);
    const { doc } = this.session.getState();
    // What the lane goes on with; what goes on until the end has nothing to come back to.
    if (before.length > 0)
      written.push({
        at: back,
        value: laneValue(before, back),
        shape: before.findLast((p) => p.at <= back)?.shape ?? shape,
      });
    else if (mode === 'held' && doc) written.push({ at: back, value: points[0]!.value, shape });
    this.session.edit({ type: 'writeLane', target, from, to: back, points: written });
  }
}
