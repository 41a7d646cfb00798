import { EventEmitter } from 'node:events';
import type { Seat } from '@/core/session';
import { stringifyFigures } from '@/core/units';
import type { ChangeEvent } from '@/core/wire';
import { eventStream } from '../http/eventStream';
import { shared } from '../shared';

/** Somebody who has the session open. */
export interface PersonHere {
  seat: string;
  name: string;
  hue: number;
}

/** A window in which a take rolls now. */
export interface RecordingWindow {
  window: string;
  seat: string;
  /** Of who sits there; empty: nobody said. */
  name: string;
}

/** Who has a session open, and where it is recorded. */
export interface Here {
  people: PersonHere[];
  recording: RecordingWindow[];
}

export type SessionEvent =
  | { kind: 'change'; change: ChangeEvent }
  | { kind: 'print'; print: unknown }
  | { kind: 'seat'; seat: string; state: Seat }
  | { kind: 'freezing'; node: string; share: number }
  | ({ kind: 'here' } & Here)
  /** Rooms belong to no session: whoever listens looks again. */
  | { kind: 'rooms' };

const emitter = () => shared('session-events', () => new EventEmitter().setMaxListeners(0));

const ALL = Symbol.for('wide-room/all-sessions');

const published = () => shared('session-published', () => new Set<(session: string, event: SessionEvent) => void>());

/** Tells everybody who listens, in this process and in others. */
export function publish(session: string, event: SessionEvent): void {
  deliver(session, event, false);
  for (const tell of published()) tell(session, event);
}

/** Hears of what is published in this process, to pass it on. */
export const onPublish = (tell: (session: string, event: SessionEvent) => void): void => void published().add(tell);

/** Tells those who listen in this process; `remote`: another one has published it, and done what belongs to it. */
export function deliver(session: string, event: SessionEvent, remote: boolean): void {
  emitter().emit(session, event, remote);
  emitter().emit(ALL, session, event, remote);
}

/** Hears of every session's events. Returns the function that ends the subscription. */
export function subscribeAll(listener: (session: string, event: SessionEvent, remote: boolean) => void): () => void {
  emitter().on(ALL, listener);
  return () => emitter().off(ALL, listener);
}

/** Returns the function that ends the subscription. */
export function subscribe(session: string, listener: (event: SessionEvent) => void): () => void {
  emitter().on(session, listener);
  return () => emitter().off(session, listener);
}

/**
 * Server-sent events of all sessions, until the client goes. `hello` comes first, with the revision of each session once
 * the events are listened to: what was changed before must be fetched.
 */
export const sessionEvents = (
  signal: AbortSignal,
  revisions: () => Promise<Record<string, number>>,
): ReadableStream<Uint8Array> =>
  eventStream(signal, ({ send, close }) => {
    const end = subscribeAll((session, event) => send(lineOf(session, event)));
    void revisions().then((now) => send(`data: ${JSON.stringify({ kind: 'hello', revisions: now })}`), close);
    return end;
  });

// One event goes to every window: it is written once.
const lines = new WeakMap<SessionEvent, string>();

function lineOf(session: string, event: SessionEvent): string {
  const known = lines.get(event);
  if (known !== undefined) return known;
  const line = `data: ${stringifyEvent({ ...event, session })}`;
  lines.set(event, line);
  return line;
}

// Only facts hold figures that JSON has no words for; changes come at full speed.
const stringifyEvent = (event: object): string => ('print' in event ? stringifyFigures(event) : JSON.stringify(event));
