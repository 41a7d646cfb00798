// Routes that carry so many bytes that the way through the framework's streams would cost more than what is done with them:
// the server's own listener gives their requests straight to them. Where another server runs the pages, their route
// handlers answer.
import type { IncomingMessage, ServerResponse } from 'node:http';
import { answered } from './answered';
import { seatOfCookies } from './asking';
import { directListener } from './directListener';
import { Refused } from './refused';

/** The body of a request, read at once: throws Refused with `why` where it is larger than `most` bytes. */
export type ReadBody = (most: number, why: string) => Promise<Uint8Array>;

/** Answers a request of a route, from its address, what its way names, and its body. */
export type DirectHandler<P> = (asked: URLSearchParams, params: P, body: ReadBody) => Promise<Response>;

interface DirectRoute {
  method: string;
  /** Its parameters are named groups. */
  way: RegExp;
  answer: DirectHandler<Record<string, string>>;
}

const routes: DirectRoute[] = [];

/** Lets the listener answer a route. `way` matches the whole path; its named groups are the handler's parameters. */
export function answerDirectly<P extends Record<string, string>>(
  method: string,
  way: RegExp,
  answer: DirectHandler<P>,
): void {
  routes.push({ method, way, answer: answer as DirectRoute['answer'] });
  directListener().answer = directly;
}

/** Answers a request by a route that was given above; false: it belongs to none of them. */
function directly(request: IncomingMessage, response: ServerResponse): boolean {
  const [pathname = '', ...query] = (request.url ?? '').split('?');
  for (const { method, way, answer } of routes) {
    const params = request.method === method ? way.exec(pathname)?.groups : undefined;
    if (!params) continue;
    const asked = new URLSearchParams(query.join('?'));
    void answered(params, asked, seatOfCookies(request.headers.cookie ?? ''), () =>
      answer(asked, params, (most, why) => bodyOf(request, most, why)),
    )
      .then(async (answer) => {
        const text = await answer.text();
        // What was refused and is still on its way is read and dropped by the listener: cut off, nobody would hear why.
        response.writeHead(answer.status, Object.fromEntries(answer.headers)).end(text);
      })
      // The client went, or its line was cut.
      .catch(() => response.destroy());
    return true;
  }
  return false;
}

function bodyOf(request: IncomingMessage, most: number, why: string): Promise<Uint8Array> {
  const told = Number(request.headers['content-length'] ?? 0);
  return new Promise((resolve, reject) => {
    if (told > most) return reject(new Refused(413, why));
    const pieces: Buffer[] = [];
    let bytes = 0;
    request.on('data', (piece: Buffer) => {
      bytes += piece.length;
      if (bytes <= most) pieces.push(piece);
      else {
        pieces.length = 0;
        reject(new Refused(413, why));
      }
    });
    request.once('end', () => resolve(Buffer.concat(pieces)));
    const cut = () => reject(new Refused(400, 'The request was cut off on its way; nothing was written.'));
    request.once('error', cut);
    request.once('close', cut);
  });
}
