import { EventEmitter } from 'node:events';
import { nanoid } from 'nanoid';
import { LINK_GONE, type PromptNews } from '@/core/prompt';
import { Refused } from '../http/refused';
import { shared } from '../shared';

/** A session whose performer's window may be opened on other machines, read only, until it is withdrawn. */
export interface Share {
  token: string;
  session: string;
  /** Windows that are open. */
  windows: number;
  news: PromptNews | null;
}

const shares = () => shared('shares', () => new Map<string, Share>());
const told = () => shared('shares-told', () => new EventEmitter().setMaxListeners(0));

/** Letters of a token: nobody guesses it within the life of a server. */
const LETTERS = 24;

/** A link is known to the server that made it: its name before the letters tells a proxy where it leads. */
const serverName = (): string => (process.env.WIDE_ROOM_SERVER ? `${process.env.WIDE_ROOM_SERVER}-` : '');

export const shareOf = (session: string): Share | null =>
  [...shares().values()].find((s) => s.session === session) ?? null;

export const anyShared = (): boolean => shares().size > 0;

export function beginShare(session: string): Share {
  const there = shareOf(session);
  if (there) return there;
  const share: Share = { token: `${serverName()}${nanoid(LETTERS)}`, session, windows: 0, news: null };
  shares().set(share.token, share);
  return share;
}

/** Withdraws it: its windows are closed off at once. */
export function endShare(session: string): void {
  const share = shareOf(session);
  if (!share) return;
  shares().delete(share.token);
  told().emit(share.token, null);
}

/** Throws Refused when it was withdrawn, or never was. */
export function shareBy(token: string): Share {
  const share = shares().get(token);
  if (!share) throw new Refused(404, LINK_GONE);
  return share;
}

/** What the engineer's window hears now; passed on to all windows of the performer. */
export function tellShare(session: string, news: PromptNews): void {
  const share = shareOf(session);
  if (!share) return;
  share.news = news;
  told().emit(share.token, news);
}

/** Hears of news, and with null of the end; returns what ends listening. */
export function followShare(token: string, listener: (news: PromptNews | null) => void): () => void {
  told().on(token, listener);
  return () => told().off(token, listener);
}
