/** Beats keep a quiet connection from being closed by what stands between (ms). */
const BEAT = 15_000;

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
  return new ReadableStream({
    start(controller) {
      const send = (text: string) => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          stop();
        }
      };
      const close = () => {
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
    cancel: () => stop(),
  });
}
