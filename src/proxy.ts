import { NextResponse, type NextRequest } from 'next/server';
import { turnedAway } from '@/server/http/guard';

// Styles that packages bring in as text: the empty sheet that the chart library fills, and the notices'.
const STYLE_HASHES =
  "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU=' 'sha256-StEaX+se6YS7pqjzrzMIA0KaX9zF/8zAhvQXZAe5epY='";

// While one works on it the pages are built as they are asked for, by scripts and styles that come as text.
const WORKING = process.env.NODE_ENV === 'development';

/** Answers only to this machine's own names, and gives each page a policy with a nonce of its own. */
export function proxy(request: NextRequest): NextResponse {
  const refused = turnedAway(request);
  if (refused) return NextResponse.json({ message: refused.message }, { status: refused.status });
  const nonce = Buffer.from(crypto.randomUUID()).toString('base64');
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'${WORKING ? " 'unsafe-eval'" : ''}`,
    WORKING ? "style-src 'self' 'unsafe-inline'" : `style-src 'self' 'nonce-${nonce}' ${STYLE_HASHES}`,
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "media-src 'self' blob:",
    "worker-src 'self'",
    "connect-src 'self'",
    "font-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "frame-ancestors 'none'",
    "form-action 'self'",
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('Content-Security-Policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('Content-Security-Policy', policy);
  return response;
}

// Not before the API: what passes here is held back, and cut off after ten megabytes. Its routes look for themselves.
export const config = { matcher: ['/((?!api/|_next/|worklets/|standins/|demo/|[^/]+\\.(?:ico|png|woff2)$).*)'] };
