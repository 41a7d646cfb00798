import { promptDocOf, type PromptDoc } from '@/core/prompt';
import type { SharedLink } from '@/core/wire';
import { pictureFile, type Piece } from '../media';
import { Refused } from '../http/refused';
import { openSession } from '../sessions';
import { addresses } from './addresses';
import { closeDoor, openDoor } from './listener';
import { anyShared, beginShare, endShare, shareBy, shareOf } from './shares';

export { shareBy, tellShare } from './shares';
export { shareStream } from './stream';
export { closeDoor } from './listener';

/** Allows the performer's window of a session on other machines; `port`: where this server answers. */
export async function allowNetwork(session: string, port: number): Promise<SharedLink> {
  await openSession(session);
  const proxy = process.env.WIDE_ROOM_LINKS;
  // Where a proxy stands before the servers, no further door is opened.
  if (proxy) {
    const { token, windows } = beginShare(session);
    return { urls: [new URL(`/prompt/shared/${token}`, proxy).href], windows };
  }
  const door = await openDoor(port);
  const { token, windows } = beginShare(session);
  return { urls: addresses().map((a) => `http://${a}:${door}/prompt/shared/${token}`), windows };
}

/** The link that is open; null: none is. */
export const openLink = (session: string, port: number): Promise<SharedLink> | null =>
  shareOf(session) ? allowNetwork(session, port) : null;

/** Withdraws the link; with the last one the door to the network is closed. */
export async function withdraw(session: string): Promise<void> {
  endShare(session);
  if (!anyShared()) await closeDoor();
}

/** What the performer sees of the session that a link is about. */
export async function sharedDoc(token: string): Promise<PromptDoc> {
  const { session } = shareBy(token);
  return promptDocOf((await openSession(session)).doc);
}

/** A piece of its picture. */
export async function sharedPicture(token: string, range: string | null): Promise<Piece> {
  const { session } = shareBy(token);
  const { picture } = (await openSession(session)).doc;
  const file = picture && /^\/api\/sessions\/[^/]+\/picture\/([^/]+)$/.exec(picture.file)?.[1];
  if (!file) throw new Refused(404, 'The session has no such picture.');
  return pictureFile(session, file, range);
}
