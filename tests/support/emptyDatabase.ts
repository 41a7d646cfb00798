import { execFileSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import path from 'node:path';

const ROOT = path.resolve(import.meta.dirname, '../..');
const MODULES = path.join(ROOT, 'node_modules');

/** Makes a database that holds nothing, once for each release of its package; returns its folder. */
function made(): string {
  const about = readFileSync(path.join(MODULES, '@electric-sql/pglite/package.json'), 'utf8');
  const { version } = JSON.parse(about) as { version: string };
  const folder = path.join(MODULES, '.cache', 'wide-room', `database-${version}`);
  if (existsSync(folder)) return folder;
  const part = `${folder}-${process.pid}`;
  mkdirSync(path.dirname(part), { recursive: true });
  const make = `const { PGlite } = await import('@electric-sql/pglite'); await (await PGlite.create(process.argv[1])).close();`;
  execFileSync(process.execPath, ['--input-type=module', '-e', make, part], { cwd: ROOT });
  try {
    renameSync(part, folder);
  } catch (error) {
    // Another process was first.
    if (!existsSync(folder)) throw error;
    rmSync(part, { recursive: true });
  }
  return folder;
}

/** Lays a database without tables into a data folder: to make one takes seconds, to copy it hardly any time. */
export function layEmptyDatabase(data: string): void {
  cpSync(made(), path.join(data, 'database'), { recursive: true });
}
