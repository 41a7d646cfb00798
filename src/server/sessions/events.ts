import { EventEmitter } from 'node:events';
import type { Patch } from '@/core/session';
import { shared } from '../shared';

export interface ChangeEvent {
  revision: number;
  editId: string;
  label: string;
  patches: Patch[];
  undo: string | null;
  redo: string | null;
}

/** `hello` comes first: what was changed before it was heard of must be fetched. */
export type SessionEvent =
  { kind: 'hello'; revision: number } | { kind: 'change'; change: ChangeEvent } | { kind: 'print'; print: unknown };

const emitter = () => shared('session-events', () => new EventEmitter().setMaxListeners(0));

const ALL = Symbol.for('wide-room/all-sessions');

export function publish(session: string, event: SessionEvent): void {
  emitter().emit(session, event);
  emitter().emit(ALL, session, event);
}

/** Hears of every session's events. Returns the function that ends the subscription. */
export function subscribeAll(listener: (session: string, event: SessionEvent) => void): () => void {
  emitter().on(ALL, listener);
  return () => emitter().off(ALL, listener);
}

/** Returns the function that ends the subscription. */
export function subscribe(session: string, listener: (event: SessionEvent) => void): () => void {
  emitter().on(session, listener);
  return () => emitter().off(session, listener);
}

/** Server-sent events of a session, until the client goes. `revision` is asked once the events are listened to. */
export function eventStream(
  session: string,
  signal: AbortSignal,
  revision: () => Promise<number>,
): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  let stop = () => {};
  return new ReadableStream({
    start(controller) {
      const send = (text: string) => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          stop();
        }
      };
      const tell = (event: SessionEvent) => send(`data: ${JSON.stringify(event)}\n\n`);
      const unsubscribe = subscribe(session, tell);
      const beat = setInterval(() => send(': here\n\n'), 15_000);
      stop = () => {
        clearInterval(beat);
        unsubscribe();
      };
      signal.addEventListener('abort', () => {
        stop();
        try {
          controller.close();
        } catch {
          // The client had closed it already.
        }
      });
      send(': open\n\n');
      void revision().then(
        (now) => tell({ kind: 'hello', revision: now }),
        () => stop(),
      );
    },
    cancel: () => stop(),
  });
}
