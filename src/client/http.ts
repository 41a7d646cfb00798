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

/** JSON in, JSON out. Throws ServerRefusal, or TypeError while the server is away. */
export async function ask<T>(url: string, body?: unknown, method = body === undefined ? 'GET' : 'POST'): Promise<T> {
  const response = await fetch(url, {
    method,
    ...(body === undefined ? {} : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
  });
  const answer = (await response.json().catch(() => ({}))) as T & { message?: string };
  if (!response.ok)
    throw new ServerRefusal(
      response.status,
      answer.message ?? `The server answered with status ${response.status}.`,
      answer as Record<string, unknown>,
    );
  return answer;
}
