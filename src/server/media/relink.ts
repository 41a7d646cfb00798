import { createWriteStream } from 'node:fs';
import { link, unlink } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { nanoid } from 'nanoid';
import { makeSessionDir, mediaPath, sessionDir } from '../config';
import { Refused } from '../http';
import { sizesIn } from '../objects';
import { diskPaths } from './fileSource';
import { unlike } from './likeness';
import { mediaOf, mediaRow, sealAgain } from './store';

/** Files that a session counts on and that are not there, by media. */
export async function missingFiles(session: string): Promise<string[]> {
  const there = await sizesIn(path.join(sessionDir(session), 'media'));
  const rows = await mediaOf(session);
  return rows.filter(({ file }) => !diskPaths(mediaPath(session, file)).every((p) => there.has(p))).map((m) => m.id);
}

/** Puts a file into the place of one that is missing. Refused when it is not what was there: then nothing is kept. */
export async function relink(id: string, body: ReadableStream<Uint8Array>): Promise<void> {
  const row = await mediaRow(id);
  const to = mediaPath(row.session, row.file);
  const [single, ...more] = diskPaths(to);
  if (more.length > 0)
    throw new Refused(
      422,
      `${row.file} stands for ${more.length + 1} files of one channel each; put them back into the folder by hand.`,
    );
  if ((await sizesIn(path.dirname(to))).has(single!))
    throw new Refused(409, `${row.file} is there; nothing is written over.`);
  makeSessionDir(row.session);
  const part = mediaPath(row.session, `.${nanoid()}.part`);
  try {
    await pipeline(Readable.fromWeb(body as never), createWriteStream(part));
    const other = await unlike(part, row);
    if (other.length)
      throw new Refused(422, `That is not ${row.file}: it has ${other.join(', ')}. Nothing was put in its place.`);
    await link(part, single!);
    await sealAgain(row);
  } finally {
    await unlink(part).catch(() => {});
  }
}
