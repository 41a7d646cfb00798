// Copies of the whole database, made now and then and looked at: the way back when it does not open any more.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { PGlite } from '@electric-sql/pglite';
import { appDir, dataDir } from '../config';
import { log } from '../log';
import { openDurable } from './durable';
import { shrink } from './tidy';

/** Copies that are kept: the newest few, and the newest of each of so many days. */
const NEWEST = 3;
const DAYS = 7;
/** Time between two (ms). */
const EVERY = 6 * 3600_000;
/** The first one after a start waits until the engineer is at work (ms). */
const FIRST_AFTER = 120_000;

const folder = (): string => path.join(dataDir(), 'database-copies');

/** Verified copies, the newest first. */
export const copies = (): string[] =>
  existsSync(folder())
    ? readdirSync(folder())
        .filter((f) => /^\d{8}T\d{6}Z\.tar\.gz$/.test(f))
        .sort()
        .reverse()
        .map((f) => path.join(folder(), f))
    : [];

/** Of copies, the newest first, those that are not kept any more. */
export function tooOld(files: readonly string[]): string[] {
  const dayOf = (file: string) => path.basename(file).slice(0, 8);
  const days = [...new Set(files.map(dayOf))].slice(0, DAYS);
  const kept = new Set([...files.slice(0, NEWEST), ...days.map((day) => files.find((f) => dayOf(f) === day)!)]);
  return files.filter((f) => !kept.has(f));
}

/** "20261126T052800Z" of a time. */
const stamp = (at: Date): string => at.toISOString().replace(/[-:]|\.\d+/g, '');

// Opening a copy takes seconds and as much memory as the database itself: in a process of its own, which gives both back.
function opens(file: string): Promise<boolean> {
  const child = spawn(process.execPath, [path.join(appDir(), 'dist', 'workers', 'copy.mjs'), file], {
    stdio: 'ignore',
  });
  return new Promise((resolve) => {
    child.once('error', () => resolve(false));
    child.once('exit', (code) => resolve(code === 0));
  });
}

/** Makes a copy; one that does not open in its turn is not kept. Returns its path. */
export async function makeCopy(client: PGlite, at = new Date()): Promise<string | null> {
  mkdirSync(folder(), { recursive: true });
  const file = path.join(folder(), `${stamp(at)}.tar.gz`);
  const part = `${file}.part`;
  const dump = await client.dumpDataDir('gzip');
  writeFileSync(part, Buffer.from(await dump.arrayBuffer()), { flush: true });
  if (!(await opens(part))) {
    log.error({ file }, 'a copy of the database does not open and is not kept');
    rmSync(part, { force: true });
    return null;
  }
  renameSync(part, file);
  for (const old of tooOld(copies())) rmSync(old, { force: true });
  return file;
}

/** Makes copies as time goes by; returns what ends that. */
export function copyNowAndThen(client: PGlite): () => void {
  const copy = () =>
    void shrink(client)
      .catch((error: unknown) => log.warn(error, 'the database could not be tidied'))
      .then(() => makeCopy(client))
      .catch((error: unknown) => log.error(error, 'no copy of the database could be made'));
  const first = setTimeout(copy, FIRST_AFTER);
  const rest = setInterval(copy, EVERY);
  first.unref();
  rest.unref();
  return () => {
    clearTimeout(first);
    clearInterval(rest);
  };
}

// What is there is set aside; nothing is written over.
async function openCopy(dir: string, copy: string): Promise<{ client: PGlite; aside: string | null }> {
  const aside = existsSync(dir) ? `${dir}-broken-${stamp(new Date())}` : null;
  if (aside) renameSync(dir, aside);
  mkdirSync(dir, { recursive: true });
  return { client: await openDurable(dir, new Blob([readFileSync(copy)])), aside };
}

/** Puts a copy in the place of the database, which must not be open. Gives where that is kept; null where there was none. */
export async function restoreCopy(copy: string): Promise<string | null> {
  const { client, aside } = await openCopy(path.join(dataDir(), 'database'), copy);
  await client.close();
  return aside;
}

export interface Opened {
  client: PGlite;
  /** What the user must know about how it was opened. */
  notice: string | null;
}

/** Opens the database; when it does not open, the newest verified copy takes its place and the broken one is kept. */
export async function openOrRestore(dir: string): Promise<Opened> {
  try {
    return { client: await openDurable(dir), notice: null };
  } catch (error) {
    const [newest] = copies();
    if (!newest) throw error;
    const { client, aside: broken } = await openCopy(dir, newest);
    const notice = `The database did not open (${(error as Error).message}). Its copy of ${path.basename(newest, '.tar.gz')} is in use: what was changed after that is missing, recorded files are not. The broken one is kept in ${broken}.`;
    log.error(notice);
    return { client, notice };
  }
}
