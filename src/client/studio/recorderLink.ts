import { startRecorder, type FromRecorder, type ToRecorder } from '@/audio';

/**
 * The worker that keeps takes and delivers them. It belongs to the page: what was recorded in one session is delivered
 * while the next one is open.
 */
export interface RecorderLink {
  tell(message: ToRecorder): void;
  /** Returns what ends it. */
  hear(listener: (message: FromRecorder) => void): () => void;
  /** Whether a take rolls, or waits to be delivered. */
  busy(): boolean;
  /** Whether a take that is not delivered yet was begun by this page. */
  began(take: string): boolean;
}

/** Starts the recorder with the first message. */
export function newRecorderLink(start: typeof startRecorder = startRecorder): RecorderLink {
  let post: ((message: ToRecorder) => void) | null = null;
  const listeners = new Set<(message: FromRecorder) => void>();
  const underWay = new Set<string>();
  const take = (message: FromRecorder) => {
    listeners.forEach((l) => l(message));
    if (message.kind === 'finished') underWay.delete(message.id);
  };
  return {
    tell(message) {
      if (message.kind === 'record') underWay.add(message.job.id);
      (post ??= start(take))(message);
    },
    hear(listener) {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    busy: () => underWay.size > 0,
    began: (take) => underWay.has(take),
  };
}
