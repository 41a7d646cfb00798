import { SignIn } from '@/core/wire';
import { loginIn, LOGIN_COOKIE, LOGIN_LASTS, signIn, signOut } from '@/server/gate';
import { asked, json, route } from '@/server/http';

// Whether the page came over TLS is told by the server that took the request.
const cookie = (request: Request, value: string, lasts: number): string =>
  `${LOGIN_COOKIE}=${value}; Path=/; Max-Age=${lasts}; HttpOnly; SameSite=Strict${
    request.headers.get('x-wide-room-tls') === '1' ? '; Secure' : ''
  }`;

function answered(request: Request, value: string, lasts: number): Response {
  const response = json({});
  response.headers.set('Set-Cookie', cookie(request, value, lasts));
  return response;
}

/** {name, phrase}: signs in at this browser. */
export const POST = route(async (request) => {
  const { name, phrase } = await asked(request, SignIn, 'sign in');
  const token = await signIn(name, phrase, request.headers.get('x-wide-room-remote') ?? 'unknown');
  return answered(request, token, LOGIN_LASTS);
});

/** Signs out. */
export const DELETE = route(async (request) => {
  signOut(loginIn(request.headers.get('cookie')));
  return answered(request, '', 0);
});
