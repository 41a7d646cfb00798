import { eventStream } from '../http/eventStream';
import { subscribe } from '../sessions/events';
import { followShare, shareBy } from './shares';

/**
 * Server-sent events for a performer's window: `news` of the sound, `doc` when the session has changed, `end` when the
 * link is withdrawn.
 */
export function shareStream(token: string, signal: AbortSignal): ReadableStream<Uint8Array> {
  const share = shareBy(token);
  return eventStream(signal, ({ send, close }) => {
    const tell = (event: string, data: unknown) => send(`event: ${event}\ndata: ${JSON.stringify(data)}`);
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
    share.windows++;
    if (share.news) tell('news', share.news);
    return () => {
      share.windows--;
      ends.forEach((end) => end());
    };
  });
}
