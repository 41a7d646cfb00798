import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { isPlainId } from '@/core/session';

/** Where everything the application keeps stands: database, media, prints. */
export const dataDir = (): string => path.resolve(/*turbopackIgnore: true*/ process.env.WIDE_ROOM_DATA ?? 'data');

/** Root of the installed application. */
export const appDir = (): string => path.resolve(/*turbopackIgnore: true*/ process.env.WIDE_ROOM_APP ?? process.cwd());

/** A session id or file name from which no path is built. */
export class NoSuchPath extends Error {}

/**
 * The folder of a session: media and prints are found there by any program. Every path below it is built here, so an
 * id that would lead elsewhere is stopped here.
 */
export function sessionDir(session: string): string {
  if (!isPlainId(session)) throw new NoSuchPath(`There is no session "${session}".`);
  return path.join(dataDir(), 'sessions', session);
}

export function mediaPath(session: string, file: string): string {
  if (!file || file === '.' || file === '..' || /[/\\\0]/.test(file))
    throw new NoSuchPath(`There is no file "${file}".`);
  return path.join(sessionDir(session), 'media', file);
}

/** Makes the folders of a session, where they are missing. Only what writes calls this. */
export function makeSessionDir(session: string): void {
  mkdirSync(path.join(sessionDir(session), 'media'), { recursive: true });
}
