import { nanoid } from 'nanoid';
import { isPlainId, SEAT_COOKIE } from '@/core/session';

const LASTS = 10 * 365 * 86_400;

function fromCookie(): string | undefined {
  return document.cookie
    .split('; ')
    .map((c) => c.split('='))
    .find(([name]) => name === SEAT_COOKIE)?.[1];
}

// A browser writes cookies late: one that is cut off may have lost a new one.
const fromStore = (): string | null => {
  try {
    return localStorage.getItem(SEAT_COOKIE);
  } catch {
    return null;
  }
};

/** Whose seat this browser is: made once and kept by the browser, the same in all its windows. */
export function mySeat(): string {
  const cookie = fromCookie();
  if (isPlainId(cookie)) return cookie;
  const kept = fromStore();
  const seat = isPlainId(kept) ? kept : nanoid(12);
  document.cookie = `${SEAT_COOKIE}=${seat}; path=/; max-age=${LASTS}; samesite=strict`;
  return seat;
}

/** Says whose seat this is for as long as a browser keeps anything: when a session is opened. */
export function sitDown(): void {
  const seat = mySeat();
  document.cookie = `${SEAT_COOKIE}=${seat}; path=/; max-age=${LASTS}; samesite=strict`;
  try {
    localStorage.setItem(SEAT_COOKIE, seat);
  } catch {
    // Without a store there is the cookie.
  }
}
