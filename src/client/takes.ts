import { toast } from 'sonner';
import { create } from 'zustand';
import { newRing, startRecorder, type FromRecorder, type RecordTap, type ToRecorder } from '@/audio';
import { chainDelay } from '@/core/engine';
import { nanoid } from 'nanoid';
import type { SessionDoc, Track } from '@/core/session';

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

let tell: ((message: ToRecorder) => void) | null = null;
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

/** Prepares a take for each armed track that is patched; the engine writes into the rings. */
export function beginTakes(session: string, doc: SessionDoc, armed: readonly Track[], position: number): RecordTap[] {
  return armed.map((track) => {
    const lines = track.inputs as string[];
    const known = lines.map((l) => doc.lines.find((x) => x.id === l));
    const untouched = known.map((l) => l?.record === 'dry');
    // An untouched line went through no chain; its delay stays, so that all channels meet.
    const chains = known.map((l, c) => (untouched[c] ? [] : (l?.chain ?? [])));
    const delay = Math.max(0, ...chains.map((c) => chainDelay(c, doc.format.sampleRate)));
    const ring = newRing(lines.length * 2);
    const id = nanoid(12).replace(/^-/, 'r');
    // What passed a chain is late by its delay: it stands that much earlier.
    const start = position - delay;
    recorder()({
      kind: 'record',
      job: {
        id,
        session,
        track: track.id,
        channels: lines.length,
        ring,
        start,
        wordLength: doc.format.wordLength,
        chains,
        keepDry: known.some((l) => l === undefined || l.record === 'both'),
      },
    });
    useTakes.setState((s) => ({
      running: [
        ...s.running,
        { id, track: track.id, start, number: null, frames: 0, delivered: 0, pairs: [], trouble: null },
      ],
    }));
    return { track: track.id, lines, ring, delay, untouched };
  });
}

/** Ends the takes that run after `frames` frames. */
export function endTakes(frames: number): void {
  for (const t of useTakes.getState().running) recorder()({ kind: 'stop', id: t.id, frames });
}
