import type { IncomingMessage, ServerResponse } from 'node:http';
import { shared } from '../shared';

/** What the server's listener asks first; the pages, which are another bundle of the same process, fill it in. */
export const directListener = () =>
  shared('direct-listener', () => ({
    answer: null as ((request: IncomingMessage, response: ServerResponse) => boolean) | null,
  }));
