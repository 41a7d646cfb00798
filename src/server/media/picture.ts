import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { mkdir, stat, unlink } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { safeName } from '@/core/print';
import { nanoid } from 'nanoid';
import type { SessionFormat } from '@/core/session';
import { makeSessionDir, mediaPath, sessionDir } from '../config';
import { Refused } from '../http';
import { fetchKept, keep, removeKept } from '../objects';
import { decodeOther, pictureFacts, type PictureFacts } from './decoder';
import { enterFile, type Asked, type Imported } from './importing';

const TYPES: Record<string, string> = {
  '.mp4': 'video/mp4',
  '.m4v': 'video/mp4',
  '.mov': 'video/quicktime',
  '.webm': 'video/webm',
  '.mkv': 'video/x-matroska',
  '.ogv': 'video/ogg',
};

const folder = (session: string): string => path.join(sessionDir(session), 'picture');

/** Keeps a picture in the session's folder; returns where the browser finds it. */
export async function takePicture(
  session: string,
  name: string,
  body: ReadableStream,
): Promise<{ file: string; facts: PictureFacts | null }> {
  const { name: stem, ext } = path.parse(name);
  if (!(ext.toLowerCase() in TYPES))
    throw new Refused(422, `a picture is an MP4, MOV, WebM, MKV or OGV file, not "${ext || name}"`);
  await mkdir(folder(session), { recursive: true });
  const file = `${Date.now().toString(36)}-${safeName(stem)}${ext.toLowerCase()}`;
  const target = path.join(folder(session), file);
  try {
    await pipeline(Readable.fromWeb(body as never), createWriteStream(target, { flags: 'wx' }));
  } catch (error) {
    await unlink(target).catch(() => {});
    throw error;
  }
  await keep([target]);
  return { file: `/api/sessions/${session}/picture/${file}`, facts: await pictureFacts(target) };
}

export interface Piece {
  type: string;
  size: number;
  from: number;
  to: number;
  body: ReadableStream;
}

/** Where a picture of a session lies. Throws Refused when its name is none. */
function pictureAt(session: string, file: string): { type: string; target: string } {
  const type = TYPES[path.extname(file)];
  if (!type || file !== path.basename(file)) throw new Refused(404, 'There is no such picture.');
  return { type, target: path.join(folder(session), file) };
}

/** Takes a picture away that was kept and could not be played. */
export async function removePicture(session: string, file: string): Promise<void> {
  const { target } = pictureAt(session, file);
  await fetchKept([target]);
  if (!existsSync(target)) throw new Refused(404, 'There is no such picture.');
  await removeKept([target]);
}

/** The sound of a picture as a file of the session; the picture stays as it is. */
export async function pictureSound(
  session: string,
  file: string,
  format: Pick<SessionFormat, 'sampleRate' | 'wordLength'>,
): Promise<Imported | Asked> {
  const { target } = pictureAt(session, file);
  await fetchKept([target]);
  // "mwwy1jbu-Harbour.mp4" as it was called before it was kept.
  const name = `${path.parse(file).name.replace(/^[a-z0-9]+-/, '')} sound`;
  makeSessionDir(session);
  const part = mediaPath(session, `.${nanoid()}.part`);
  const note = await decodeOther(target, part, name);
  const taken = await enterFile(session, `${name}.wav`, part, format);
  return 'asked' in taken ? taken : { ...taken, notes: [note, ...taken.notes] };
}

/** A piece of a picture as a `Range` header asks for it; all of it without one. */
export async function pictureFile(session: string, file: string, range: string | null): Promise<Piece> {
  const { type, target } = pictureAt(session, file);
  await fetchKept([target]);
  const { size } = await stat(target).catch(() => {
    throw new Refused(404, 'There is no such picture.');
  });
  const asked = /^bytes=(\d*)-(\d*)$/.exec(range ?? '');
  const from = asked?.[1] ? Number(asked[1]) : asked?.[2] ? Math.max(0, size - Number(asked[2])) : 0;
  const to = asked?.[1] && asked[2] ? Math.min(size - 1, Number(asked[2])) : size - 1;
  if (from > to) throw new Refused(416, 'The picture is shorter than that.');
  return {
    type,
    size,
    from,
    to,
    body: Readable.toWeb(createReadStream(target, { start: from, end: to })) as ReadableStream,
  };
}
