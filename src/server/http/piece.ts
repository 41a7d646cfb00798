import { binary } from '.';

/** A piece of a file as `Range` asks for it (RFC 9110, section 14), or all of it. */
export function pieceOf(
  { type, size, from, to, body }: { type: string; size: number; from: number; to: number; body: ReadableStream },
  asked: boolean,
): Response {
  const headers = { 'Accept-Ranges': 'bytes', 'Content-Length': String(to - from + 1) };
  const whole = binary(body, type, {
    ...headers,
    ...(asked ? { 'Content-Range': `bytes ${from}-${to}/${size}` } : {}),
  });
  return asked ? new Response(whole.body, { status: 206, headers: whole.headers }) : whole;
}
