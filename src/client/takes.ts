import { nanoid } from 'nanoid';
import { toast } from 'sonner';
import { create } from 'zustand';
import { newRing, startRecorder, type FromRecorder, type RecordTap, type ToRecorder } from '@/audio';
import { chainDelay } from '@/core/engine';
import type { SessionDoc, TakePurpose, Track } from '@/core/session';

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
}

export const useTakes = create<{ running: RunningTake[] }>(() => ({ running: [] }));

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

let tell: ((message: ToRecorder) => void) | null = null;
/** Stretches of the takes that have not ended. */
const open = new Map<string, { from: number; to: number | null; after: number }>();
const patch = (id: string, part: (t: RunningTake) => Partial<RunningTake>) =>
  useTakes.setState((s) => ({ running: s.running.map((t) => (t.id === id ? { ...t, ...part(t) } : t)) }));

function take(message: FromRecorder): void {
  if (message.kind === 'begun') patch(message.id, () => ({ number: message.take, trouble: null }));
  else if (message.kind === 'peaks') {
    patch(message.id, (t) => {
      for (const v of message.pairs) t.pairs.push(v);
      return {
        frames: message.frames,
        delivered: message.delivered,
        trouble: message.delivered > t.delivered ? null : t.trouble,
      };
    });
  } else if (message.kind === 'trouble') {
    patch(message.id, () => ({ trouble: message.message }));
    toast.warning(message.message, { id: `take-${message.id}`, duration: 8000 });
  } else {
    useTakes.setState((s) => ({ running: s.running.filter((t) => t.id !== message.id) }));
    toast.dismiss(`take-${message.id}`);
  }
}

const recorder = (): ((message: ToRecorder) => void) => (tell ??= startRecorder(take));

/** Delivers takes that an earlier page could not. */
export const deliverLeftTakes = (): void => recorder()({ kind: 'deliver' });

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
    tap: { ...lines, ring: newRing(lines.lines.length * 2) },
  };
}

/** Samples by which what arrives in the rings is later than what was performed. */
export const lateness = ({ tap, order }: PreparedTake): number => tap.delay + order.latency;

/** Starts to keep what the engine writes for a prepared take. */
export function beginTake({ id, order, tap }: PreparedTake, { from, to, start, after = 0 }: Stretch): RecordTap {
  const { session, doc, track, purpose } = order;
  const known = tap.lines.map((l) => doc.lines.find((x) => x.id === l));
  recorder()({
    kind: 'record',
    job: {
      id,
      session,
      track: track.id,
      channels: tap.lines.length,
      ring: tap.ring,
      start,
      wordLength: doc.format.wordLength,
      // An untouched line went through no chain; its delay stays, so that all channels meet.
      chains: known.map((l, c) => (tap.untouched?.[c] ? [] : (l?.chain ?? []))),
      keepDry: known.some((l) => l === undefined || l.record === 'both'),
      purpose,
    },
  });
  open.set(id, { from, to, after });
  if (to !== null) recorder()({ kind: 'stop', id, frames: to - from });
  const fresh = { id, track: track.id, start, number: null, frames: 0, delivered: 0, pairs: [], trouble: null };
  useTakes.setState((s) => ({ running: [...s.running, fresh] }));
  return { ...tap, from, to };
}

/** Takes that were begun by hand end at this frame of the roll; `shownEnd`: that place on the timeline. */
export function endByHand(rolled: number, shownEnd: number): void {
  for (const [id, stretch] of open) {
    if (stretch.to !== null) continue;
    stretch.to = rolled + stretch.after;
    recorder()({ kind: 'stop', id, frames: stretch.to - stretch.from, shownEnd });
  }
}

/** Ends the takes that have not ended, after `rolled` frames of the roll; those that never began leave nothing. */
export function endTakes(rolled: number): void {
  for (const [id, { from, to }] of open)
    recorder()({ kind: 'stop', id, frames: Math.max(0, Math.min(rolled, to ?? Infinity) - from) });
  open.clear();
}
