/** Beats keep a quiet connection from being closed by what stands between (ms). */
const BEAT = 15_000;

/** Letters that wait for a slow client. */
const MOST_WAITING = 8 << 20;

export interface Events {
  /** Sends lines of an event, as the HTML Standard (server-sent events) writes them. */
  send(lines: string): void;
  /** Ends the stream. */
  close(): void;
}

/**
 * Server-sent events until the client goes, the signal aborts, or `begin` closes them. What `begin` returns is called
 * once, when they have ended.
 */
export function eventStream(signal: AbortSignal, begin: (events: Events) => () => void): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  let stop = () => {};
  // What comes while the connection is busy goes together when it is free: piece by piece it would fall further behind.
  let waiting = '';
  const flush = (controller: ReadableStreamDefaultController<Uint8Array>) => {
    const text = waiting;
    if (!text) return;
    waiting = '';
    try {
      controller.enqueue(encoder.encode(text));
    } catch {
      stop();
    }
  };
  return new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string) => {
        waiting += text;
        // One that takes nothing for so long is cut off: it comes again and looks at what it missed.
        if (waiting.length > MOST_WAITING) return close();
        if ((controller.desiredSize ?? 0) > 0) flush(controller);
      };
      const close = () => {
        flush(controller);
        stop();
        try {
          controller.close();
        } catch {
          // The client had gone already.
        }
      };
      send(': open\n\n');
      const beat = setInterval(() => send(': here\n\n'), BEAT);
      const end = begin({ send: (lines) => send(`${lines}\n\n`), close });
      let open = true;
      stop = () => {
        if (!open) return;
        open = false;
        clearInterval(beat);
        end();
      };
      signal.addEventListener('abort', close);
      if (signal.aborted) close();
    },
    pull: (controller) => flush(controller),
    cancel: () => stop(),
  });
}
