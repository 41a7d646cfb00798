import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { nanoid } from 'nanoid';
import { dataDir } from './config';
import { log } from './log';

/** What every user must know, until somebody has read it: something was set aside, and what to do. */
export interface Notice {
  id: string;
  text: string;
  at: string;
}

const file = (): string => path.join(dataDir(), 'notices.json');

export function notices(): Notice[] {
  try {
    return existsSync(file()) ? (JSON.parse(readFileSync(file(), 'utf8')) as Notice[]) : [];
  } catch (error) {
    log.warn(error, 'the notices could not be read');
    return [];
  }
}

/** Adds a notice, once. */
export function notice(text: string): void {
  const known = notices();
  if (known.some((n) => n.text === text)) return;
  write([...known, { id: nanoid(8), text, at: new Date().toISOString() }]);
}

/** Somebody has read it. */
export const dismissNotice = (id: string): void => write(notices().filter((n) => n.id !== id));

function write(list: Notice[]): void {
  try {
    mkdirSync(dataDir(), { recursive: true });
    writeFileSync(file(), JSON.stringify(list, null, 2));
  } catch (error) {
    // A full disk must not keep the server from starting.
    log.warn(error, 'a notice could not be kept');
  }
}
