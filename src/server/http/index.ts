import { EditRefused } from '@/core/session';
import { FileFault } from '@/core/files';
import { log } from '../log';
import { turnedAway } from './guard';

/** A request that cannot be answered as asked; the message is for the user. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly facts: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

// Cross-origin isolation needs this on every response.
const HEADERS = { 'Cross-Origin-Resource-Policy': 'same-origin', 'Cache-Control': 'no-store' };

export const json = (body: unknown, status = 200): Response => Response.json(body, { status, headers: HEADERS });

export const binary = (
  body: Uint8Array<ArrayBuffer> | ReadableStream,
  type = 'application/octet-stream',
  more: Record<string, string> = {},
): Response => new Response(body, { headers: { ...HEADERS, 'Content-Type': type, ...more } });

type Handler<P> = (request: Request, params: P) => Promise<Response>;

/** Wraps a route handler: strangers are turned away, and what it throws becomes a clear message with the right status. */
export function route<P extends Record<string, string> = Record<string, never>>(handler: Handler<P>) {
  return async (request: Request, context: { params: Promise<P> }): Promise<Response> => {
    const refused = turnedAway(request);
    if (refused) return json({ message: refused.message }, refused.status);
    try {
      return await handler(request, await context.params);
    } catch (error) {
      if (error instanceof Refused) return json({ message: error.message, ...error.facts }, error.status);
      if (error instanceof EditRefused || error instanceof FileFault) return json({ message: error.message }, 422);
      if ((error as NodeJS.ErrnoException).code === 'ENOSPC')
        return json(
          {
            message:
              'The disk of the server is full. What was stored before is kept, and a recording goes on in this browser. Make room; it is delivered by itself.',
          },
          507,
        );
      log.error(error);
      return json(
        { message: 'Something went wrong on the server. Nothing that was stored before is lost; try again.' },
        500,
      );
    }
  };
}

/** The body as JSON; anything else is refused. */
export async function body(request: Request): Promise<unknown> {
  try {
    return await request.json();
  } catch {
    throw new Refused(400, 'The request must be JSON.');
  }
}
