import { parseFigures } from '@/core/units';

/** The server answered with a refusal; the message is for the user. */
export class ServerRefusal extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly facts: Record<string, unknown>,
  ) {
    super(message);
  }
}

/** Browsers keep at most 64 KB in flight beyond a page's life (Fetch Standard, HTTP-network-or-cache fetch). */
const MOST_KEPT_ALIVE = 16_000;

/** JSON in, JSON out. Throws ServerRefusal, or TypeError while the server is away. */
export async function ask<T>(url: string, body?: unknown, method = body === undefined ? 'GET' : 'POST'): Promise<T> {
  const text = body === undefined ? '' : JSON.stringify(body);
  const response = await fetch(url, {
    method,
    // What is on its way when the page goes still arrives.
    keepalive: body !== undefined && text.length < MOST_KEPT_ALIVE,
    ...(body === undefined ? {} : { headers: { 'Content-Type': 'application/json' }, body: text }),
  });
  const answer = (await response
    .text()
    .then(parseFigures)
    .catch(() => ({}))) as T & { message?: string };
  // Signed out meanwhile, on another machine: the way in asks who it is.
  if (response.status === 401 && url !== '/api/sign-in') window.location.assign('/sign-in');
  if (!response.ok)
    throw new ServerRefusal(
      response.status,
      answer.message ?? `The server answered with status ${response.status}.`,
      answer as Record<string, unknown>,
    );
  return answer;
}
