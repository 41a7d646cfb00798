import { stat } from 'node:fs/promises';
import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { mediaPath, sessionDir } from '../config';
import { mediaOf, mediaRow } from './store';

export interface SessionFiles {
  /** Where the session's files lie. */
  folder: string;
  /** Size on disk, by media. */
  bytes: Record<string, number>;
}

/** Folder and sizes of a session's files. */
export async function sessionFiles(session: string): Promise<SessionFiles> {
  const bytes: Record<string, number> = {};
  for (const { id, file } of await mediaOf(session)) {
    const found = await stat(mediaPath(session, file)).catch(() => null);
    if (found) bytes[id] = found.size;
  }
  return { folder: `${sessionDir(session)}/media`, bytes };
}

/** A file as it lies on disk. */
export async function mediaFile(id: string): Promise<{ name: string; size: number; body: ReadableStream }> {
  const row = await mediaRow(id);
  const path = mediaPath(row.session, row.file);
  const { size } = await stat(path);
  return { name: row.file, size, body: Readable.toWeb(createReadStream(path)) as ReadableStream };
}
