import { nanoid } from 'nanoid';
import { toast } from 'sonner';
import { createStore } from 'zustand/vanilla';
import { newTakeRing, type FromRecorder, type RecordTap } from '@/audio';
import { chainDelay } from '@/core/engine';
import type { SessionDoc, Stage, TakeFacts, TakeGap, TakePurpose, Track } from '@/core/session';
import { formatDuration } from '@/core/units';
import type { SessionAccess } from './access';
import type { RecorderLink } from './recorderLink';

/** A take that is being recorded, or waits to be delivered. */
export interface RunningTake {
  id: string;
  track: string;
  start: number;
  number: number | null;
  frames: number;
  /** Frames that are safe on the server. */
  delivered: number;
  /** Smallest and largest sample, a pair per 256 frames. */
  pairs: number[];
  trouble: string | null;
  /** Where sound is missing, frames of the take. */
  gaps: TakeGap[];
}

/** Stretch of a roll that becomes a take: frames after rolling began, and where its first frame belongs. */
export interface Stretch {
  from: number;
  to: number | null;
  /** Sample of the timeline. */
  start: number;
  /** Recorded for so long yet when it is ended by hand. */
  after?: number;
}

/** What a take needs besides its stretch. */
export interface TakeOrder {
  session: string;
  doc: SessionDoc;
  track: Track;
  /** Samples by which the sound of the lines comes late. */
  latency: number;
  purpose: TakePurpose;
}

/** What is laid out for one take before it is known where it begins. */
export interface PreparedTake {
  id: string;
  order: TakeOrder;
  tap: Omit<RecordTap, 'from' | 'to'>;
}

/** A take that has not ended: its stretch, and the chains that it is known to go through now. */
interface Open {
  from: number;
  to: number | null;
  after: number;
  lines: string[];
  untouched: boolean[];
  chains: string;
}

/** "0.4 s at 12.1 s". */
export const gapText = ({ at, frames }: TakeGap, rate: number): string =>
  `${(frames / rate).toFixed(2)} s at ${formatDuration(at / rate)}`;

/** What of its lines a patched track records, and how late that comes. */
export function linesOf(doc: SessionDoc, track: Track): Pick<RecordTap, 'track' | 'lines' | 'delay' | 'untouched'> {
  const lines = track.inputs as string[];
  const known = lines.map((l) => doc.lines.find((x) => x.id === l));
  const untouched = known.map((l) => l?.record === 'dry');
  const delay = Math.max(
    0,
    ...known.map((l, c) => (l && !untouched[c] ? chainDelay(l.chain, doc.format.sampleRate) : 0)),
  );
  return { track: track.id, lines, delay, untouched };
}

/** Ring and lines for a take of a track that is patched. */
export function prepareTake(order: TakeOrder): PreparedTake {
  const lines = linesOf(order.doc, order.track);
  return {
    id: nanoid(12).replace(/^-/, 'r'),
    order,
    tap: { ...lines, ring: newTakeRing(lines.lines.length * 2, order.doc.format.sampleRate) },
  };
}

/** Samples by which what arrives in the rings is later than what was performed. */
export const lateness = ({ tap, order }: PreparedTake): number => tap.delay + order.latency;

// An untouched line went through no chain; its delay stays, so that all channels meet.
const chainsNow = (doc: SessionDoc, lines: readonly string[], untouched: readonly boolean[]): Stage[][] =>
  lines.map((l, c) => (untouched[c] ? [] : (doc.lines.find((x) => x.id === l)?.chain ?? [])));

/** The takes that are recorded, until the server has them. */
export class Takes {
  readonly state = createStore<{ running: RunningTake[] }>(() => ({ running: [] }));
  /** Takes that have not ended. */
  private readonly open = new Map<string, Open>();
  private readonly toldLeft = new Set<string>();
  /** Tracks that were recorded and the rate they had, for what is told once the session is left. */
  private readonly names = new Map<string, string>();
  private rate = 48_000;
  private readonly leave: () => void;
  private closed = false;

  constructor(
    private readonly session: SessionAccess,
    private readonly recorder: RecorderLink,
  ) {
    this.leave = recorder.hear((message) => this.take(message));
  }

  private patch(id: string, part: (t: RunningTake) => Partial<RunningTake>): void {
    this.state.setState((s) => ({ running: s.running.map((t) => (t.id === id ? { ...t, ...part(t) } : t)) }));
  }

  private find(id: string): RunningTake | undefined {
    return this.state.getState().running.find((t) => t.id === id);
  }

  private take(message: FromRecorder): void {
    if (message.kind === 'left') return this.tellLeft(message.takes);
    // Takes of an earlier page are told here, those of a session that was left by what is left of it.
    if (!this.find(message.id) && (this.closed || this.recorder.began(message.id))) return;
    if (message.kind === 'finished') this.finished(message.id, message.faults);
    else if (message.kind === 'begun') this.patch(message.id, () => ({ number: message.take, trouble: null }));
    else if (message.kind === 'peaks')
      this.patch(message.id, (t) => {
        for (const v of message.pairs) t.pairs.push(v);
        return {
          frames: message.frames,
          delivered: message.delivered,
          trouble: message.delivered > t.delivered ? null : t.trouble,
        };
      });
    else if (message.kind === 'trouble') {
      this.patch(message.id, () => ({ trouble: message.message }));
      toast.warning(message.message, { id: `take-${message.id}`, duration: 8000 });
    } else {
      this.patch(message.id, () => ({ gaps: message.facts.gaps ?? [] }));
      this.tellFacts(message.id, message.facts);
    }
  }

  private finished(id: string, faults: readonly string[]): void {
    const known = this.find(id);
    this.state.setState((s) => ({ running: s.running.filter((t) => t.id !== id) }));
    toast.dismiss(`take-${id}`);
    if (faults.length)
      toast.error(`${known ? this.nameOf(known.track) : 'A take'}: ${faults.join(' ')}`, { duration: Infinity });
    this.leaveWhenDelivered();
  }

  private nameOf(track: string): string {
    const now = this.closed ? undefined : this.session.getState().doc?.tracks.find((t) => t.id === track)?.name;
    return now ?? this.names.get(track) ?? track;
  }

  private tellFacts(id: string, { gaps, faults }: TakeFacts): void {
    const known = this.find(id);
    const name = known ? this.nameOf(known.track) : 'A take';
    const rate = (known ? null : this.session.getState().doc?.format.sampleRate) ?? this.rate;
    if (gaps?.length)
      toast.error(
        `${name}: this machine was held up and sound was lost, ${gaps.map((g) => gapText(g, rate)).join(', ')}. Silence of that length stands there, all the rest is in its place. The take says so.`,
        { id: `gap-${id}`, duration: Infinity },
      );
    if (faults?.length) toast.error(`${name}: ${faults.join(' ')}`, { id: `fault-${id}`, duration: Infinity });
  }

  // What a page that was left had recorded is told by the next one.
  private tellLeft(takes: Extract<FromRecorder, { kind: 'left' }>['takes']): void {
    if (this.closed) return;
    const { id: session } = this.session.getState();
    const fresh = takes.filter((t) => !this.toldLeft.has(t.id));
    fresh.forEach((t) => this.toldLeft.add(t.id));
    const mine = fresh.filter((t) => t.session === session);
    if (mine.length)
      toast.message(
        `Kept in this browser and on its way to the server: ${mine
          .map((t) => `${this.nameOf(t.track)}${t.seconds === null ? '' : `, ${formatDuration(t.seconds)}`}`)
          .join('; ')}.`,
        { duration: 12_000 },
      );
  }

  /** Whether a take rolls, or waits to be delivered by this page. */
  underWay(): boolean {
    return this.recorder.busy();
  }

  /** Delivers takes that an earlier page could not. */
  deliverLeft(): void {
    this.recorder.tell({ kind: 'deliver' });
  }

  /** Starts to keep what the engine writes for a prepared take. */
  begin({ id, order, tap }: PreparedTake, { from, to, start, after = 0 }: Stretch): RecordTap {
    const { session, doc, track, purpose } = order;
    const known = tap.lines.map((l) => doc.lines.find((x) => x.id === l));
    const untouched = tap.untouched ?? [];
    const chains = chainsNow(doc, tap.lines, untouched);
    this.names.set(track.id, track.name);
    this.rate = doc.format.sampleRate;
    // The list first: the recorder may answer at once.
    this.state.setState((s) => ({ running: [...s.running, begun(id, track.id, start)] }));
    this.recorder.tell({
      kind: 'record',
      job: {
        id,
        session,
        track: track.id,
        channels: tap.lines.length,
        ring: tap.ring,
        start,
        format: { sampleRate: doc.format.sampleRate, wordLength: doc.format.wordLength },
        chains,
        keepDry: known.some((l) => l === undefined || l.record === 'both'),
        purpose,
      },
    });
    this.open.set(id, { from, to, after, lines: tap.lines, untouched, chains: JSON.stringify(chains) });
    if (to !== null) this.recorder.tell({ kind: 'stop', id, frames: to - from });
    return { ...tap, from, to };
  }

  /** From this frame of the roll on the engine runs the chains of `doc`: takes that go through others now note that. */
  noteChains(doc: SessionDoc, rolled: number): void {
    for (const [id, take] of this.open) {
      if (take.to !== null && rolled >= take.to) continue;
      const chains = chainsNow(doc, take.lines, take.untouched);
      const text = JSON.stringify(chains);
      if (text === take.chains) continue;
      take.chains = text;
      this.recorder.tell({ kind: 'chains', id, at: Math.max(0, rolled - take.from), chains });
    }
  }

  /** Lines that a take goes through now, whose processed sound is kept. */
  linesRecorded(): Set<string> {
    return new Set([...this.open.values()].flatMap((t) => t.lines.filter((_, c) => !t.untouched[c])));
  }

  /** Takes that were begun by hand end at this frame of the roll; `shownEnd`: that place on the timeline. */
  endByHand(rolled: number, shownEnd: number): void {
    for (const [id, stretch] of this.open) {
      if (stretch.to !== null) continue;
      stretch.to = rolled + stretch.after;
      this.recorder.tell({ kind: 'stop', id, frames: stretch.to - stretch.from, shownEnd });
    }
  }

  /** Ends the takes that have not ended, after `rolled` frames of the roll; those that never began leave nothing. */
  end(rolled: number): void {
    for (const [id, { from, to }] of this.open)
      this.recorder.tell({ kind: 'stop', id, frames: Math.max(0, Math.min(rolled, to ?? Infinity) - from) });
    this.open.clear();
  }

  private leaveWhenDelivered(): void {
    if (this.closed && this.state.getState().running.length === 0) this.leave();
  }

  /** The session is left: takes go on to be delivered, and their faults are told. */
  close(): void {
    this.closed = true;
    this.leaveWhenDelivered();
  }
}

const begun = (id: string, track: string, start: number): RunningTake => ({
  id,
  track,
  start,
  number: null,
  frames: 0,
  delivered: 0,
  pairs: [],
  trouble: null,
  gaps: [],
});
