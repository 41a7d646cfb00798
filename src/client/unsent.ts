import type { EditJson } from '@/core/session';

/** Edits on their way to the server. */
export interface Pending {
  id: string;
  edits: EditJson[];
}

const keyOf = (session: string): string => `wide-room/unsent/${session}`;

/** Notes in this window's own store what the server does not have yet: a page that is loaded anew sends it again. */
export function keepUnsent(session: string, pending: readonly Pending[]): void {
  try {
    if (pending.length === 0) sessionStorage.removeItem(keyOf(session));
    else sessionStorage.setItem(keyOf(session), JSON.stringify(pending));
  } catch {
    // Without room (or without a store) they are only in this page, as before.
  }
}

/** What an earlier page of this window could not send. */
export function unsent(session: string): Pending[] {
  try {
    return JSON.parse(sessionStorage.getItem(keyOf(session)) ?? '[]') as Pending[];
  } catch {
    return [];
  }
}
