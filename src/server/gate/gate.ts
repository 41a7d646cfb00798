// What stands before everything else: which requests are read at all, and whose they must be.
import type { Role } from './seats';

export interface Arriving {
  method: string;
  url: string;
  host: string;
  /** Address of the other end. */
  remote: string;
  /** It came through a proxy. */
  forwarded: boolean;
}

export type Verdict =
  { pass: true; role: Role } | { pass: false; status: number; message: string; location?: string; allow?: string };

const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'DELETE', 'OPTIONS'];
const LOCAL = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;
const LOOPBACK = /^(127\.\d+\.\d+\.\d+|::1|::ffff:127\.\d+\.\d+\.\d+)$/;

/** What anybody may ask for: the way in, and what a page is made of. */
const FREE = [
  /^\/sign-in$/,
  /^\/api\/sign-in$/,
  /^\/_next\/static\//,
  /^\/icon\.svg$/,
  /^\/prompt\/shared\//,
  /^\/api\/shared\//,
];

/** What a listener sends without changing a session: where they are, how they hear, and what is looked at. */
const LISTENS = [
  /^\/api\/me$/,
  /^\/api\/sessions\/[^/]+\/(here|seat|blocks|archive)$/,
  /^\/api\/media\/[^/]+\/peaks$/,
  /^\/api\/prints\/[^/]+\/(check|compare)$/,
  /^\/api\/verify$/,
];

const refused = (status: number, message: string, more: object = {}): Verdict => ({
  pass: false,
  status,
  message,
  ...more,
});

/** Whether somebody at this machine asks, and not through anything that stands before it. */
export const atThisMachine = ({ host, remote, forwarded }: Arriving): boolean =>
  LOCAL.test(host) && LOOPBACK.test(remote) && !forwarded;

/**
 * Decides about a request before it is read. `role`: of the seat that is signed in, null where nobody is. On the machine
 * itself nobody needs to.
 */
export function verdict(arriving: Arriving, role: Role | null): Verdict {
  const { method, url } = arriving;
  if (!METHODS.includes(method))
    return refused(405, `"${method}" is nothing that this server does.`, { allow: METHODS.join(', ') });
  const path = pathOf(url);
  if (path === null) return refused(400, 'The address of the request cannot be read.');
  if (atThisMachine(arriving)) return { pass: true, role: 'engineer' };
  if (FREE.some((free) => free.test(path))) return { pass: true, role: role ?? 'listener' };
  if (role === null)
    return path.startsWith('/api/') || method !== 'GET'
      ? refused(401, 'Sign in first: this server asks everybody who comes from another machine.')
      : refused(303, 'Sign in first.', { location: '/sign-in' });
  if (role === 'listener' && method !== 'GET' && method !== 'HEAD' && !LISTENS.some((p) => p.test(path)))
    return refused(403, 'This is a listener’s seat: it hears and sees everything and changes nothing.');
  return { pass: true, role };
}

// One spelling of each address: what a rule does not see, nobody may reach by writing it otherwise.
function pathOf(url: string): string | null {
  if (!url.startsWith('/') || url.startsWith('//')) return null;
  try {
    const path = decodeURIComponent(url.split(/[?#]/)[0]!);
    return /[\0\\]|\/\.\.?(\/|$)|\/\//.test(path) || path.includes('\uFFFD') ? null : path;
  } catch {
    return null;
  }
}
