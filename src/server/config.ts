import { mkdirSync } from 'node:fs';
import path from 'node:path';

/** Where everything the application keeps stands: database, media, prints. */
export const dataDir = (): string => path.resolve(/*turbopackIgnore: true*/ process.env.WIDE_ROOM_DATA ?? 'data');

/** Root of the installed application. */
export const appDir = (): string => path.resolve(/*turbopackIgnore: true*/ process.env.WIDE_ROOM_APP ?? process.cwd());

/** The folder of a session: media and prints are found there by any program. */
export function sessionDir(session: string): string {
  const dir = path.join(dataDir(), 'sessions', session);
  mkdirSync(path.join(dir, 'media'), { recursive: true });
  return dir;
}

export const mediaPath = (session: string, file: string): string => path.join(sessionDir(session), 'media', file);
