import { stringifyFigures } from '@/core/units';

// Cross-origin isolation needs this on every response.
const HEADERS = { 'Cross-Origin-Resource-Policy': 'same-origin', 'Cache-Control': 'no-store' };

export const json = (body: unknown, status = 200): Response => Response.json(body, { status, headers: HEADERS });

/** The same for measured facts: figures that are not finite are kept (see stringifyFigures). */
export const factsJson = (body: unknown, status = 200): Response =>
  new Response(stringifyFigures(body), { status, headers: { ...HEADERS, 'Content-Type': 'application/json' } });

export const binary = (
  body: Uint8Array<ArrayBuffer> | ReadableStream,
  type = 'application/octet-stream',
  more: Record<string, string> = {},
): Response => new Response(body, { headers: { ...HEADERS, 'Content-Type': type, ...more } });
