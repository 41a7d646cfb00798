import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import path from 'node:path';
import { PassThrough, Readable } from 'node:stream';
import { asc, eq } from 'drizzle-orm';
import yazl from 'yazl';
import { partNames } from '@/core/files';
import { safeName } from '@/core/print';
import { upgradeDoc, type SessionFile } from '@/core/session';
import { mediaPath, sessionDir } from '../config';
import { db, tables } from '../database';
import { mediaHere, mediaOf } from '../media';
import { fetchKept } from '../objects';
import { loadSession } from '../sessions';

export interface Entry {
  /** Name in the archive, and where it lies. */
  name: string;
  file: string;
  size: number;
}

/** What goes into the archive of a session: its description, and the files. */
export async function contents(id: string, history: boolean): Promise<{ about: SessionFile; entries: Entry[] }> {
  const { doc, revision } = await loadSession(id);
  const entries: Entry[] = [];
  const media: SessionFile['media'] = [];
  const missing: string[] = [];
  const add = async (name: string, file: string): Promise<boolean> => {
    await fetchKept([file]);
    const there = await stat(file).catch(() => null);
    if (there) entries.push({ name, file, size: there.size });
    return there !== null;
  };
  for (const row of await mediaOf(id)) {
    const names = partNames(row.file);
    const there = [];
    await mediaHere(row);
    for (const n of names) there.push(await add(`media/${n}`, mediaPath(id, n)));
    if (there.includes(false)) {
      // What nothing plays any more is no loss; a part alone is no file.
      entries.splice(entries.length - there.filter(Boolean).length);
      if (doc.media[row.id]) missing.push(row.file);
      continue;
    }
    const { id: own, file, kind, channels, frames, sampleRate } = row;
    media.push({ id: own, file, kind, channels, frames, sampleRate });
  }
  // A picture that ships with the application is there on every machine.
  const shown = doc.picture?.file.startsWith('/api/sessions/') ? path.basename(doc.picture.file) : null;
  const picture = shown && (await add(`picture/${shown}`, path.join(sessionDir(id), 'picture', shown))) ? shown : null;
  if (shown && !picture) missing.push(shown);
  const about: SessionFile = {
    ...{ format: 'wide-room-session', version: 1, id, revision, session: doc, media, picture, missing },
    versions: await versionsOf(id),
    ...(history ? { history: await stepsOf(id) } : {}),
  };
  return { about, entries };
}

async function versionsOf(session: string): Promise<SessionFile['versions']> {
  const v = tables.versions;
  const rows = await (await db()).select().from(v).where(eq(v.session, session)).orderBy(asc(v.at));
  return rows.map((r) => ({
    ...{ name: r.name, automatic: r.automatic, revision: r.revision, at: r.at.toISOString() },
    doc: upgradeDoc(r.doc),
  }));
}

async function stepsOf(session: string): Promise<NonNullable<SessionFile['history']>> {
  const e = tables.edits;
  const rows = await (await db()).select().from(e).where(eq(e.session, session)).orderBy(asc(e.revision));
  return rows.map(({ session: _, seat: _seat, at, ...r }) => ({ ...r, at: at.toISOString() }));
}

/** How large the archive of a session is, and which of its files are not there. */
export async function sessionArchiveFacts(id: string): Promise<{ bytes: number; missing: string[] }> {
  const { about, entries } = await contents(id, false);
  return { bytes: entries.reduce((n, e) => n + e.size, 0), missing: about.missing };
}

/**
 * A whole session as one ZIP: session.json (the document, its versions and, if wanted, every step), media/, picture/, and at
 * last the checksums of all, taken while they go by.
 */
export async function sessionArchive(id: string, history: boolean): Promise<{ name: string; stream: Readable }> {
  const { about, entries } = await contents(id, history);
  const zip = new yazl.ZipFile();
  const stream = zip.outputStream as Readable;
  zip.on('error', (error: Error) => stream.destroy(error));
  const sums: string[] = [];
  const text = Buffer.from(JSON.stringify(about));
  sums.push(`${createHash('sha256').update(text).digest('hex')}  session.json\n`);
  zip.addBuffer(text, 'session.json');
  for (const { name, file, size } of entries)
    zip.addReadStreamLazy(name, { compress: false, size }, (give) => {
      const hash = createHash('sha256');
      const through = new PassThrough();
      through.on('data', (bytes: Buffer) => hash.update(bytes));
      through.on('end', () => sums.push(`${hash.digest('hex')}  ${name}\n`));
      const read = createReadStream(file);
      read.on('error', (error) => through.destroy(error));
      give(null, read.pipe(through));
    });
  zip.addReadStreamLazy('SHA256SUMS', (give) => give(null, Readable.from([Buffer.from(sums.join(''))])));
  zip.end();
  return { name: `${safeName(about.session.code)}_session.zip`, stream };
}
