import { createWriteStream } from 'node:fs';
import { link, rename, unlink } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { eq } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { bitsOf, RATE_QUALITY, type AudioStream } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { ordersHeard, saidChannels, soundOfChannels } from '@/core/measure';
import { safeName } from '@/core/print';
import type { MediaRef, SessionFormat } from '@/core/session';
import type { LayoutId } from '@/core/speakers';
import { makeSessionDir, mediaPath } from '../config';
import { db, tables } from '../database';
import { Refused } from '../http';
import { newKernels } from '../kernels';
import { formatKept } from './convert';
import { FileSource } from './fileSource';
import { onThread } from './onThread';
import { openAudio } from './openAudio';

export type MediaRow = typeof tables.media.$inferSelect;

export async function addMedia(row: Omit<MediaRow, 'createdAt'>): Promise<void> {
  await (
    await db()
  )
    .insert(tables.media)
    .values(row)
    .onConflictDoUpdate({ target: tables.media.id, set: { frames: row.frames } });
}

export async function mediaRow(id: string): Promise<MediaRow> {
  const [row] = await (await db()).select().from(tables.media).where(eq(tables.media.id, id));
  if (!row) throw new Refused(404, `There is no file "${id}" in the media of any session.`);
  return row;
}

export async function mediaOf(session: string): Promise<MediaRow[]> {
  return (await db()).select().from(tables.media).where(eq(tables.media.session, session));
}

export const pathOfMedia = async (id: string): Promise<string> => {
  const row = await mediaRow(id);
  return mediaPath(row.session, row.file);
};

export const toRef = (row: Omit<MediaRow, 'createdAt'>): MediaRef => ({
  id: row.id,
  name: row.file,
  channels: row.channels,
  frames: row.frames,
  sampleRate: row.sampleRate,
  kind: row.kind,
});

/**
 * Gives a finished file its name in a session: the wanted one, or the next that is free. The name is taken in one step,
 * so that two files that come at once never get the same.
 */
async function nameIn(session: string, part: string, wanted: string): Promise<string> {
  const { name, ext } = path.parse(wanted);
  for (let i = 1; ; i++) {
    const file = i === 1 ? wanted : `${name}-${i}${ext}`;
    try {
      await link(part, mediaPath(session, file));
      await unlink(part);
      return file;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    }
  }
}

export interface Imported {
  media: MediaRef;
  /** What its channels are; null: no track is as wide. */
  layout: LayoutId | null;
  /** Samples since midnight, when the file says so. */
  timeReference: number | null;
  notes: string[];
}

/** Takes a file into a session's media folder. Throws FileFault or Refused and keeps nothing when it is unusable. */
export async function importFile(
  session: string,
  name: string,
  body: ReadableStream<Uint8Array>,
  { sampleRate: sessionRate, wordLength }: Pick<SessionFormat, 'sampleRate' | 'wordLength'>,
): Promise<Imported> {
  makeSessionDir(session);
  const part = mediaPath(session, `.${nanoid()}.part`);
  const made = `${part}.wav`;
  try {
    await pipeline(Readable.fromWeb(body as import('node:stream/web').ReadableStream), createWriteStream(part));
    const source = await FileSource.open(part);
    const taken = await takeIn(source, part, made, name, sessionRate).finally(() => source.close());
    const file = await nameIn(session, made, `${wholeName(path.parse(name).name)}.wav`);
    const row = {
      id: nanoid(12),
      session,
      file,
      kind: 'file' as const,
      channels: taken.channels,
      frames: taken.frames,
      sampleRate: sessionRate,
    };
    await addMedia(row);
    const notes = [...taken.told, ...taken.notes];
    if (taken.bits !== wordLength)
      notes.push(`${taken.bits} bit where the session has ${wordLength}; nothing is lost.`);
    return {
      media: { ...toRef(row), ...taken.order },
      layout: taken.layout,
      timeReference: taken.timeReference,
      notes,
    };
  } catch (error) {
    for (const left of [part, made]) await unlink(left).catch(() => {});
    throw error;
  }
}

/** Bytes of a file's name that every usual file system takes, with room for endings and numbers. */
const MOST_NAME = 200;

const wholeName = (name: string): string => safeName(name).slice(0, MOST_NAME);

/** Which speakers the channels of a file are for, as far as it says, or its sound lets guess. */
async function aboutChannels(
  k: Kernels,
  stream: AudioStream,
): Promise<{ layout: LayoutId | null; order: Pick<MediaRef, 'order' | 'unsaid'>; told: string[] }> {
  const { layout, order, others } = saidChannels(stream);
  const told =
    others === null
      ? []
      : [
          `Its channels are for ${others}; ${layout ? `no layout here has just these, so it is taken for ${layout.name}` : 'no layout here has these'}.`,
        ];
  const id = layout?.id ?? null;
  if (order === 'wav' || layout === null) return { layout: id, order: {}, told };
  if (order !== null) return { layout: id, order: { order }, told };
  return { layout: id, order: { unsaid: ordersHeard(layout, await soundOfChannels(k, stream)) }, told };
}

/** Moves a WAV at the session's rate into place as it is; writes anything else anew as Broadcast WAV at that rate. */
async function takeIn(source: FileSource, part: string, to: string, name: string, rate: number) {
  const k = newKernels();
  const stream = await openAudio(k, source);
  const timeReference = stream.bext?.timeReference ?? null;
  const bits = bitsOf(stream.format);
  const about = await aboutChannels(k, stream);
  const asItIs = stream.sampleRate === rate && ['RIFF', 'RF64', 'BW64'].includes(stream.kind);
  if (asItIs && stream.notes.length === 0) {
    if (stream.frames === 0) throw new Refused(422, `${name} holds no samples. It was not taken in.`);
    await rename(part, to);
    return { ...about, channels: stream.channels, frames: stream.frames, bits, timeReference, notes: stream.notes };
  }
  const format = formatKept(stream.format, stream.sampleRate !== rate);
  const { frames } = await onThread({ task: 'convert', from: part, to, as: { kind: 'wav', sampleRate: rate, format } });
  if (frames === 0) {
    await unlink(to);
    throw new Refused(422, `${name} holds no samples. It was not taken in.`);
  }
  await unlink(part);
  const notes = [...stream.notes];
  if (stream.sampleRate !== rate) notes.push(`Converted from ${stream.sampleRate} to ${rate} Hz (${RATE_QUALITY}).`);
  else if (!asItIs) notes.push(`Taken in from ${stream.kind} as Broadcast WAV.`);
  const scale = rate / stream.sampleRate;
  return {
    ...about,
    channels: stream.channels,
    frames,
    bits,
    timeReference: timeReference === null ? null : Math.round(timeReference * scale),
    notes,
  };
}
