import type { Stage, TakeFacts, TakePurpose } from '@/core/session';
import type { TakeMemory } from './takeRing';
import type { TakeFormat } from './workers/takeStore';

export interface RecordJob {
  id: string;
  session: string;
  track: string;
  /** Channels of the track; the ring holds processed and dry ones. */
  channels: number;
  ring: TakeMemory;
  start: number;
  format: TakeFormat;
  chains: Stage[][];
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
    /** The chains of a running take are others from this frame of it on. */
  | { kind: 'chains'; id: string; at: number; chains: Stage[][] }
  | { kind: 'deliver' };

export type FromRecorder =
  | { kind: 'begun'; id: string; take: number; file: string }
  /** New smallest and largest samples, one pair per 256 frames. */
  | { kind: 'peaks'; id: string; pairs: number[]; frames: number; delivered: number }
  /** What is known of a take besides its sound, whenever there is more of it. */
  | { kind: 'facts'; id: string; facts: TakeFacts }
  | { kind: 'finished'; id: string; faults: string[] }
  /** Takes of an earlier page that are still here, with their seconds. */
  | { kind: 'left'; takes: { id: string; session: string; track: string; seconds: number | null }[] }
  | { kind: 'trouble'; id: string; message: string };

/** Starts the worker that takes recordings from the rings to disk and server. */
export function startRecorder(onMessage: (message: FromRecorder) => void): (message: ToRecorder) => void {
  const worker = new Worker(new URL('./workers/recorder.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<FromRecorder>) => onMessage(data);
  return (message) => worker.postMessage(message);
}
