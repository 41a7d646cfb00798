import { createHash, randomBytes } from 'node:crypto';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { Refused } from '../http/refused';
import { shared } from '../shared';
import { knownSeats, seatBy, type KnownSeat } from './seats';

/** Cookie that says who is signed in; scripts do not see it. */
export const LOGIN_COOKIE = 'wide-room-login';
/** A login that is not used for so long is over (s). */
export const LOGIN_LASTS = 12 * 3600;

interface Login {
  seat: string;
  hash: string;
  until: number;
}

const logins = () => shared('logins', () => new Map<string, Login>());
/** Wrong phrases that one address, and one seat, may send in ten minutes. */
const tries = () =>
  shared('login-tries', () => ({
    address: new RateLimiterMemory({ points: 20, duration: 600 }),
    seat: new RateLimiterMemory({ points: 10, duration: 600 }),
  }));

const keyOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Signs in; gives what the cookie holds. Throws Refused for a wrong name or phrase, and for too many of them. */
export async function signIn(name: string, phrase: string, address: string): Promise<string> {
  const { address: byAddress, seat: bySeat } = tries();
  const who = name.trim().toLowerCase().slice(0, 40);
  try {
    await Promise.all([byAddress.consume(address), bySeat.consume(who)]);
  } catch {
    throw new Refused(429, 'Too many wrong names or phrases. Wait ten minutes and try again.');
  }
  const found = await seatBy(name, phrase);
  if (!found) throw new Refused(401, 'Name and pass phrase do not belong together. Try again.');
  await Promise.all([byAddress.delete(address), bySeat.delete(who)]);
  const token = randomBytes(32).toString('base64url');
  const now = Date.now();
  for (const [key, login] of logins()) if (login.until < now) logins().delete(key);
  logins().set(keyOf(token), { seat: found.name, hash: found.hash, until: now + LOGIN_LASTS * 1000 });
  return token;
}

/** Whose login it is; null: nobody's, or its seat was taken away or has another phrase by now. */
export function seatOfLogin(token: string | undefined): KnownSeat | null {
  const login = token ? logins().get(keyOf(token)) : undefined;
  if (!login || login.until < Date.now()) return null;
  const seat = knownSeats().find((s) => s.name === login.seat && s.hash === login.hash);
  if (!seat) return null;
  login.until = Date.now() + LOGIN_LASTS * 1000;
  return seat;
}

export const signOut = (token: string | undefined): void => void (token && logins().delete(keyOf(token)));

/** The login in a Cookie header. */
export const loginIn = (cookies: string | null | undefined): string | undefined =>
  (cookies ?? '')
    .split(';')
    .map((c) => c.trim().split('='))
    .find(([name]) => name === LOGIN_COOKIE)?.[1];
