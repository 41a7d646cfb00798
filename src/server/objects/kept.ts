// Files of the data folder that are kept in an object store as well: every server and worker has them there, and its own
// folder holds those that it made or needed. Without an object store the folder is all there is, and nothing here does
// anything.
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { dataDir } from '../config';
import { inScratch } from '../scratch';
import { shared } from '../shared';
import { objects } from './open';

const keyOf = (file: string): string => path.relative(dataDir(), file).split(path.sep).join('/');
const fileOf = (key: string): string => path.join(dataDir(), ...key.split('/'));

/** Keeps finished files for everybody. Throws Refused where the store does not take one. */
export async function keep(files: readonly string[]): Promise<void> {
  const store = await objects();
  if (store) for (const file of files) await store.put(keyOf(file), file);
}

/** The same for all files in a folder and below it; what begins with a dot is not finished. */
export async function keepFolder(dir: string): Promise<void> {
  if (!(await objects())) return;
  const entries = await readdir(dir, { withFileTypes: true, recursive: true });
  await keep(
    entries
      .filter((e) => e.isFile() && !e.name.startsWith('.') && !e.name.endsWith('.peaks'))
      .map((e) => path.join(e.parentPath, e.name)),
  );
}

const coming = () => shared('objects-coming', () => new Map<string, Promise<void>>());

/** Fetches files that lie in the store and not in this server's folder. What is nowhere stays away. */
export async function fetchKept(files: readonly string[]): Promise<void> {
  if (!(await objects())) return;
  for (const file of files) if ((await sizeHere(file)) === null) await fetchAnew(file);
}

/** Fetches a file whatever lies in its place; what the store does not have stays as it is. */
export async function fetchAnew(file: string): Promise<void> {
  // Asked for by many at once, it comes once.
  const one = coming().get(file) ?? fetchOne(file).finally(() => coming().delete(file));
  coming().set(file, one);
  await one;
}

async function fetchOne(file: string): Promise<void> {
  const store = await objects();
  await inScratch(async (dir) => {
    const part = path.join(dir, 'part');
    if (!(await store?.get(keyOf(file), part))) return;
    await mkdir(path.dirname(file), { recursive: true });
    // In one step: whoever reads meanwhile finds the whole of it.
    await rename(part, file);
  });
}

/** Fetches what the store has of a folder. */
export async function fetchFolder(dir: string): Promise<void> {
  const store = await objects();
  if (store) await fetchKept((await store.list(`${keyOf(dir)}/`)).map(({ key }) => fileOf(key)));
}

const sizeHere = (file: string): Promise<number | null> =>
  stat(file).then(
    (s) => (s.isFile() ? s.size : null),
    () => null,
  );

/** Sizes of all files in a folder and below it, here or in the store, by their paths. */
export async function sizesIn(dir: string): Promise<Map<string, number>> {
  const store = await objects();
  const sizes = new Map((await store?.list(`${keyOf(dir)}/`))?.map(({ key, bytes }) => [fileOf(key), bytes]));
  for (const e of await readdir(dir, { withFileTypes: true, recursive: true }).catch(() => [])) {
    const file = path.join(e.parentPath, e.name);
    const size = await sizeHere(file);
    if (size !== null) sizes.set(file, size);
  }
  return sizes;
}

/** Removes files here and in the store. What is not there is no fault. */
export async function removeKept(files: readonly string[]): Promise<void> {
  for (const file of files) await rm(file, { force: true });
  await (await objects())?.remove(files.map(keyOf));
}

/** Removes a folder with all that is in it, here and in the store. */
export async function removeFolder(dir: string): Promise<void> {
  await rm(dir, { recursive: true, force: true });
  const store = await objects();
  if (store) await store.remove((await store.list(`${keyOf(dir)}/`)).map(({ key }) => key));
}
