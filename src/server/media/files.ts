import { stat } from 'node:fs/promises';
import { createReadStream } from 'node:fs';
import path from 'node:path';
import { Readable } from 'node:stream';
import { safeName } from '@/core/print';
import { mediaPath, sessionDir } from '../config';
import { sizesIn } from '../objects';
import { diskPaths, openFile, type OpenSource } from './fileSource';
import { mediaHere, mediaOf, mediaRow } from './store';

const PIECE = 1 << 18;

export interface SessionFiles {
  /** Where the session's files lie. */
  folder: string;
  /** Size on disk, by media. */
  bytes: Record<string, number>;
}

/** Folder and sizes of a session's files. */
export async function sessionFiles(session: string): Promise<SessionFiles> {
  const folder = path.join(sessionDir(session), 'media');
  const sizes = await sizesIn(folder);
  const bytes: Record<string, number> = {};
  for (const { id, file } of await mediaOf(session)) {
    const found = diskPaths(mediaPath(session, file)).map((p) => sizes.get(p));
    if (found.some((f) => f !== undefined)) bytes[id] = found.reduce<number>((n, f) => n + (f ?? 0), 0);
  }
  return { folder, bytes };
}

/** A file as it lies on disk; files of one channel each come as one. */
export async function mediaFile(id: string): Promise<{ name: string; size: number; body: ReadableStream }> {
  const row = await mediaRow(id);
  const file = await mediaHere(row);
  if (diskPaths(file).length > 1) {
    const source = await openFile(file);
    return { name: `${safeName(path.parse(file).name)}.wav`, size: source.size, body: streamOf(source) };
  }
  const { size } = await stat(file);
  return { name: row.file, size, body: Readable.toWeb(createReadStream(file)) as ReadableStream };
}

function streamOf(source: OpenSource): ReadableStream {
  let at = 0;
  return new ReadableStream({
    async pull(to) {
      const bytes = await source.read(at, PIECE);
      at += bytes.length;
      if (bytes.length > 0) to.enqueue(bytes);
      if (at >= source.size || bytes.length === 0) {
        await source.close();
        to.close();
      }
    },
    cancel: async () => void (await source.close()),
  });
}
