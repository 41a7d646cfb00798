import type { TakePurpose, WordLength } from '@/core/session';
import type { RingMemory } from './ring';

export interface RecordJob {
  id: string;
  session: string;
  track: string;
  /** Channels of the track; the ring holds processed and dry ones. */
  channels: number;
  ring: RingMemory;
  start: number;
  wordLength: WordLength;
  chains: unknown[];
  /** Whether the untouched copy stays once the take is complete. */
  keepDry: boolean;
  purpose?: TakePurpose;
}

export type ToRecorder =
  | { kind: 'record'; job: RecordJob }
  | /** `shownEnd`: sample of the timeline where what is heard of it ends, when that became known only now. */ {
      kind: 'stop';
      id: string;
      frames: number;
      shownEnd?: number;
    }
  | { kind: 'deliver' };

export type FromRecorder =
  | { kind: 'begun'; id: string; take: number; file: string }
  /** New smallest and largest samples, one pair per 256 frames. */
  | { kind: 'peaks'; id: string; pairs: number[]; frames: number; delivered: number }
  | { kind: 'finished'; id: string }
  | { kind: 'trouble'; id: string; message: string };

/** Starts the worker that takes recordings from the rings to disk and server. */
export function startRecorder(onMessage: (message: FromRecorder) => void): (message: ToRecorder) => void {
  const worker = new Worker(new URL('./workers/recorder.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<FromRecorder>) => onMessage(data);
  return (message) => worker.postMessage(message);
}
