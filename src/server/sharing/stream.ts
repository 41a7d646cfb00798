import { subscribe } from '../sessions/events';
import { followShare, shareBy } from './shares';

/**
 * Server-sent events for a performer's window: `news` of the sound, `doc` when the session has changed, `end` when the
 * link is withdrawn.
 */
export function shareStream(token: string, signal: AbortSignal): ReadableStream<Uint8Array> {
  const share = shareBy(token);
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
      const tell = (event: string, data: unknown) => send(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
      const close = () => {
        stop();
        try {
          controller.close();
        } catch {
          // The window had gone already.
        }
      };
      const ends = [
        followShare(token, (news) => {
          if (news) return tell('news', news);
          tell('end', {});
          close();
        }),
        subscribe(share.session, (event) => {
          if (event.kind === 'change') tell('doc', { revision: event.change.revision });
        }),
      ];
      const beat = setInterval(() => send(': here\n\n'), 15_000);
      share.windows++;
      let open = true;
      stop = () => {
        if (!open) return;
        open = false;
        share.windows--;
        clearInterval(beat);
        ends.forEach((end) => end());
      };
      signal.addEventListener('abort', close);
      send(': open\n\n');
      if (share.news) tell('news', share.news);
    },
    cancel: () => stop(),
  });
}
