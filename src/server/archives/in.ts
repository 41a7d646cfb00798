import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { inArray } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import type yauzl from 'yauzl';
import { partNames } from '@/core/files';
import { readSessionFile, withMediaIds, type SessionDoc, type SessionFile } from '@/core/session';
import { makeSessionDir, sessionDir } from '../config';
import { db, tables } from '../database';
import { Refused } from '../http';
import { sealed, sumSoon } from '../media';
import { keepFolder } from '../objects';
import { making } from '../unfinished';
import { asLargeAsItsSound, entriesOf, inZip, roomFor } from './unpack';

const MOST_DESCRIPTION = 512 << 20;
const MOST_SUMS = 16 << 20;
/** Rows that are stored at a time. */
const ROWS = 200;

export interface BroughtSession {
  id: string;
  name: string;
  /** What the reader should know, in sentences. */
  notes: string[];
}

/** Takes a whole session in from its archive. Throws EditRefused or Refused, and keeps nothing, when it is no good one. */
export function bringSession(file: string): Promise<BroughtSession> {
  return inZip(file, 'the archive of a session', async (zip) => {
    const id = nanoid(10);
    const entries = await entriesOf(zip);
    const text = await textOf(zip, entries, 'session.json', MOST_DESCRIPTION);
    const about = readSessionFile(text);
    const sums = sumsIn(await textOf(zip, entries, 'SHA256SUMS', MOST_SUMS));
    if (createHash('sha256').update(text).digest('hex') !== sums.get('session.json'))
      throw new Refused(422, 'session.json is not as it was: its checksum is another one. Nothing was brought in.');
    const wanted = [
      ...about.media
        .flatMap((m) => partNames(m.file))
        .map((n) => [`media/${n}`, path.join(sessionDir(id), 'media', n)] as const),
      ...(about.picture
        ? [[`picture/${about.picture}`, path.join(sessionDir(id), 'picture', about.picture)] as const]
        : []),
    ];
    for (const m of about.media)
      for (const name of partNames(m.file)) {
        const entry = entries.get(`media/${name}`);
        if (entry) asLargeAsItsSound(entry, m);
      }
    await roomFor(wanted.reduce((n, [name]) => n + (entries.get(name)?.uncompressedSize ?? 0), 0));
    return await making(sessionDir(id), async () => {
      makeSessionDir(id);
      await mkdir(path.join(sessionDir(id), 'picture'), { recursive: true });
      for (const [name, to] of wanted) {
        const entry = entries.get(name);
        if (!entry) throw new Refused(422, `The archive lacks its file ${name}. Nothing was brought in.`);
        const hash = createHash('sha256');
        const stream = await zip.openReadStreamPromise(entry);
        stream.on('data', (bytes: Buffer) => hash.update(bytes));
        await pipeline(stream, createWriteStream(to, { flags: 'wx' }));
        if (hash.digest('hex') !== sums.get(name))
          throw new Refused(422, `${name} is not as it was: its checksum is another one. Nothing was brought in.`);
      }
      return store(id, about);
    });
  });
}

async function textOf(
  zip: yauzl.ZipFile,
  entries: ReadonlyMap<string, yauzl.Entry>,
  name: string,
  most: number,
): Promise<string> {
  const entry = entries.get(name);
  if (!entry || entry.uncompressedSize > most)
    throw new Refused(422, `The archive holds no ${name}: it is none of a session. Nothing was brought in.`);
  const parts: Buffer[] = [];
  for await (const part of await zip.openReadStreamPromise(entry)) parts.push(part as Buffer);
  return Buffer.concat(parts).toString('utf8');
}

const sumsIn = (text: string): Map<string, string> =>
  new Map(
    text.split('\n').flatMap((line) => {
      const found = /^([0-9a-f]{64}) [ *](.+)$/.exec(line.trim());
      return found ? [[found[2]!, found[1]!] as const] : [];
    }),
  );

/** Stores a session whose files lie in its folder; ids of files that are taken on this machine become others. */
export async function store(id: string, about: SessionFile): Promise<BroughtSession> {
  const database = await db();
  const m = tables.media;
  const known = about.media.map((x) => x.id);
  const taken = new Set<string>();
  for (let i = 0; i < known.length; i += ROWS)
    for (const row of await database
      .select({ id: m.id })
      .from(m)
      .where(inArray(m.id, known.slice(i, i + ROWS))))
      taken.add(row.id);
  // On the machine that it comes from the session is there already: its files get ids of their own.
  const ids = new Map(taken.size > 0 ? known.map((old) => [old, nanoid(12)]) : []);
  const here = (doc: SessionDoc): SessionDoc => {
    const moved = withMediaIds(doc, ids);
    if (!moved.picture?.file.startsWith('/api/sessions/')) return moved;
    const name = path.basename(moved.picture.file);
    return { ...moved, picture: { ...moved.picture, file: `/api/sessions/${id}/picture/${name}` } };
  };
  const history = ids.size > 0 ? undefined : about.history;
  const doc = here(about.session);
  const rows = await sealed(about.media.map((x) => ({ ...x, id: ids.get(x.id) ?? x.id, session: id })));
  await keepFolder(path.join(sessionDir(id), 'picture'));
  await database.transaction(async (to) => {
    await to.insert(tables.sessions).values({ id, revision: history ? about.revision : 0, doc });
    for (const part of parted(rows)) await to.insert(m).values(part);
    for (const v of about.versions)
      await to
        .insert(tables.versions)
        .values({ ...v, id: nanoid(10), session: id, at: new Date(v.at), doc: here(v.doc) });
    for (const part of parted(history ?? []))
      await to
        .insert(tables.edits)
        .values(part.map((s) => ({ ...s, session: id, seat: null, at: new Date(s.at) })) as never);
  });
  sumSoon(rows.map((row) => row.id));
  return {
    id,
    name: doc.name,
    notes: [
      ...(about.missing.length ? [`${about.missing.join(', ')} was missing when the archive was made.`] : []),
      ...(about.history && !history
        ? ['Its history stayed behind: the session that it comes from is on this machine, and has it.']
        : []),
    ],
  };
}

function* parted<T>(rows: readonly T[]): Iterable<T[]> {
  for (let i = 0; i < rows.length; i += ROWS) yield rows.slice(i, i + ROWS);
}
