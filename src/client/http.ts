import { toast } from 'sonner';
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

const SIGN_IN = '/api/sign-in';
/** Not signed in; too many requests. */
const AWAY: readonly number[] = [401, 429];

let signedOut = false;

function tellSignedOut(): void {
  signedOut = true;
  toast.error('You are signed out. What you changed is kept in this window; sign in, and it is sent.', {
    id: 'signed-out',
    duration: Infinity,
    action: { label: 'Sign in', onClick: () => void window.open('/sign-in', '_blank') },
  });
}

/** JSON in, JSON out. Throws ServerRefusal, or another error while the server is away or asks who this is. */
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
  // Signed out meanwhile, or too many requests, on another machine: like a server that is away. What is unsent is kept, and
  // the page stays: a take may roll in it.
  if (AWAY.includes(response.status) && url !== SIGN_IN) {
    if (response.status === 401) tellSignedOut();
    throw new Error(answer.message ?? `The server answered with status ${response.status}.`);
  }
  if (signedOut) {
    signedOut = false;
    toast.dismiss('signed-out');
  }
  if (!response.ok)
    throw new ServerRefusal(
      response.status,
      answer.message ?? `The server answered with status ${response.status}.`,
      answer,
    );
  return answer;
}
