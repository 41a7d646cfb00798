import { AsyncLocalStorage } from 'node:async_hooks';
import { isPlainId, SEAT_COOKIE } from '@/core/session';
import { shared } from '../shared';
import { Refused } from './refused';

const asking = () => shared('asking-seat', () => new AsyncLocalStorage<string | null>());

/** The seat that a request comes from; null where it does not say. */
export const seatOfRequest = (request: Request): string | null => seatOfCookies(request.headers.get('cookie') ?? '');

/** The same of a header of cookies. */
export function seatOfCookies(cookies: string): string | null {
  const cookie = cookies
    .split(';')
    .map((c) => c.trim().split('='))
    .find(([name]) => name === SEAT_COOKIE)?.[1];
  return cookie && isPlainId(cookie) ? cookie : null;
}

/** Answers a request on behalf of its seat. */
export const onBehalfOf = <T>(seat: string | null, work: () => Promise<T>): Promise<T> => asking().run(seat, work);

/** Whose request is being answered; null: nobody's, the server does it by itself. */
export const askingSeat = (): string | null => asking().getStore() ?? null;

/** The seat that asks; throws where a request does not say whose it is. */
export function someSeat(): string {
  const seat = askingSeat();
  if (seat === null) throw new Refused(400, `The request does not say whose seat it is (cookie ${SEAT_COOKIE}).`);
  return seat;
}
