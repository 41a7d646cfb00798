import type { Seat } from '@/core/session';
import { parseFigures } from '@/core/units';
import type { Here } from './people';

/** What the server tells as it happens; `hello` comes first and holds the revision of each session. */
export type ServerEvent =
  | { kind: 'hello'; revisions: Record<string, number> }
  | { kind: 'change'; session: string; change: unknown }
  | { kind: 'print'; session: string; print: unknown }
  | { kind: 'freezing'; session: string; node: string; share: number }
  | { kind: 'seat'; session: string; seat: string; state: Seat }
  | ({ kind: 'here'; session: string } & Here)
  /** Rooms were changed; they belong to no session. */
  | { kind: 'rooms'; session: string };

/** The stream as a window hears it. */
export type StreamNews = { kind: 'open' } | { kind: 'error' } | { kind: 'event'; data: string };

const NAME = 'wide-room/events';

/**
 * Listens to the server's events. A browser gives six connections to a server, and a stream holds one for as long as it
 * is open: so one window of the browser holds the stream and passes it on to the others. When it closes, another takes
 * its place. Returns what ends listening.
 */
export function listen(take: (news: StreamNews) => void): () => void {
  if (!globalThis.navigator?.locks || typeof BroadcastChannel === 'undefined') {
    const stream = streamTo(take);
    return () => stream.close();
  }
  const channel = new BroadcastChannel(NAME);
  channel.onmessage = ({ data }: MessageEvent<StreamNews>) => take(data);
  const ended = new AbortController();
  let done = () => {};
  const hold = () =>
    new Promise<void>((resolve) => {
      const stream = streamTo((news) => {
        channel.postMessage(news);
        take(news);
      });
      done = () => {
        stream.close();
        resolve();
      };
    });
  navigator.locks.request(NAME, { signal: ended.signal }, hold).catch(() => {
    // Listening ended before the stream came to this window.
  });
  return () => {
    ended.abort();
    done();
    channel.close();
  };
}

function streamTo(take: (news: StreamNews) => void): EventSource {
  const stream = new EventSource('/api/events');
  stream.onopen = () => take({ kind: 'open' });
  stream.onerror = () => take({ kind: 'error' });
  stream.onmessage = ({ data }) => take({ kind: 'event', data: data as string });
  return stream;
}

export const readEvent = (data: string): ServerEvent => parseFigures(data) as ServerEvent;
