import { nanoid } from 'nanoid';
import { toast } from 'sonner';
import { create } from 'zustand';
import { newTakeRing, startRecorder, type FromRecorder, type RecordTap, type ToRecorder } from '@/audio';
import { chainDelay } from '@/core/engine';
import type { SessionDoc, Stage, TakeFacts, TakeGap, TakePurpose, Track } from '@/core/session';
import { formatDuration } from '@/core/units';
import { useSession } from './session';

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
const open = new Map<string, Open>();

interface Open {
  from: number;
  to: number | null;
  after: number;
  lines: string[];
  untouched: boolean[];
  /** The chains that the take is known to go through now. */
  chains: string;
}

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
  } else if (message.kind === 'facts') {
    patch(message.id, () => ({ gaps: message.facts.gaps ?? [] }));
    tellFacts(message.id, message.facts);
  } else if (message.kind === 'left') tellLeft(message.takes);
  else {
    const known = useTakes.getState().running.find((t) => t.id === message.id);
    useTakes.setState((s) => ({ running: s.running.filter((t) => t.id !== message.id) }));
    toast.dismiss(`take-${message.id}`);
    if (message.faults.length)
      toast.error(`${known ? nameOf(known.track) : 'A take'}: ${message.faults.join(' ')}`, { duration: Infinity });
  }
}

const trackById = (id: string): Track | undefined => useSession.getState().doc?.tracks.find((t) => t.id === id);
const nameOf = (track: string): string => trackById(track)?.name ?? track;
const rateNow = (): number => useSession.getState().doc?.format.sampleRate ?? 48_000;

/** "0.4 s at 12.1 s". */
export const gapText = ({ at, frames }: TakeGap, rate: number): string =>
  `${(frames / rate).toFixed(2)} s at ${formatDuration(at / rate)}`;

function tellFacts(id: string, { gaps, faults }: TakeFacts): void {
  const known = useTakes.getState().running.find((t) => t.id === id);
  const name = known ? nameOf(known.track) : 'A take';
  if (gaps?.length)
    toast.error(
      `${name}: this machine was held up and sound was lost, ${gaps.map((g) => gapText(g, rateNow())).join(', ')}. Silence of that length stands there, all the rest is in its place. The take says so.`,
      { id: `gap-${id}`, duration: Infinity },
    );
  if (faults?.length) toast.error(`${name}: ${faults.join(' ')}`, { id: `fault-${id}`, duration: Infinity });
}

const toldLeft = new Set<string>();

// What a page that was left had recorded is told by the next one.
function tellLeft(takes: Extract<FromRecorder, { kind: 'left' }>['takes']): void {
  const { id: session } = useSession.getState();
  const fresh = takes.filter((t) => !toldLeft.has(t.id));
  fresh.forEach((t) => toldLeft.add(t.id));
  const mine = fresh.filter((t) => t.session === session);
  if (mine.length)
    toast.message(
      `Kept in this browser and on its way to the server: ${mine
        .map((t) => `${nameOf(t.track)}${t.seconds === null ? '' : `, ${formatDuration(t.seconds)}`}`)
        .join('; ')}.`,
      { duration: 12_000 },
    );
}

/** Whether a take rolls, or waits to be delivered by this page. */
export const takesUnderWay = (): boolean => useTakes.getState().running.length > 0;

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
    tap: { ...lines, ring: newTakeRing(lines.lines.length * 2, order.doc.format.sampleRate) },
  };
}

/** Samples by which what arrives in the rings is later than what was performed. */
export const lateness = ({ tap, order }: PreparedTake): number => tap.delay + order.latency;

/** Starts to keep what the engine writes for a prepared take. */
export function beginTake({ id, order, tap }: PreparedTake, { from, to, start, after = 0 }: Stretch): RecordTap {
  const { session, doc, track, purpose } = order;
  const known = tap.lines.map((l) => doc.lines.find((x) => x.id === l));
  const untouched = tap.untouched ?? [];
  const chains = chainsNow(doc, tap.lines, untouched);
  recorder()({
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
  open.set(id, { from, to, after, lines: tap.lines, untouched, chains: JSON.stringify(chains) });
  if (to !== null) recorder()({ kind: 'stop', id, frames: to - from });
  const fresh = {
    id,
    track: track.id,
    start,
    number: null,
    frames: 0,
    delivered: 0,
    pairs: [],
    trouble: null,
    gaps: [],
  };
  useTakes.setState((s) => ({ running: [...s.running, fresh] }));
  return { ...tap, from, to };
}

// An untouched line went through no chain; its delay stays, so that all channels meet.
const chainsNow = (doc: SessionDoc, lines: readonly string[], untouched: readonly boolean[]): Stage[][] =>
  lines.map((l, c) => (untouched[c] ? [] : (doc.lines.find((x) => x.id === l)?.chain ?? [])));

/** From this frame of the roll on the engine runs the chains of `doc`: takes that go through others now note that. */
export function noteChains(doc: SessionDoc, rolled: number): void {
  for (const [id, take] of open) {
    if (take.to !== null && rolled >= take.to) continue;
    const chains = chainsNow(doc, take.lines, take.untouched);
    const text = JSON.stringify(chains);
    if (text === take.chains) continue;
    take.chains = text;
    recorder()({ kind: 'chains', id, at: Math.max(0, rolled - take.from), chains });
  }
}

/** Lines that a take goes through now, whose processed sound is kept. */
export const linesRecorded = (): Set<string> =>
  new Set([...open.values()].flatMap((t) => t.lines.filter((_, c) => !t.untouched[c])));

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
