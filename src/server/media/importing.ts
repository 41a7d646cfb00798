import { createWriteStream } from 'node:fs';
import { link, rename, unlink } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { nanoid } from 'nanoid';
import { bitsOf, RATE_QUALITY, UnreadForm, type AudioStream } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { ordersHeard, saidChannels, soundOfChannels } from '@/core/measure';
import { safeName } from '@/core/print';
import type { MediaRef, SessionFormat } from '@/core/session';
import type { LayoutId } from '@/core/speakers';
import { makeSessionDir, mediaPath } from '../config';
import { Refused } from '../http';
import { newKernels } from '../kernels';
import { shared } from '../shared';
import { inTurn } from '../turns';
import { formatKept } from './convert';
import { decodeOther } from './decoder';
import { FileSource } from './fileSource';
import { onThread } from './onThread';
import { openAudio } from './openAudio';
import { addMedia, giveName, takeName, toRef, type NewRow } from './store';

/**
 * Gives a finished file its name in a session: the wanted one, or the next that is free. The name is taken in one step,
 * here and among all servers, so that two files that come at once never get the same.
 */
async function nameIn(part: string, row: NewRow): Promise<NewRow> {
  const { name, ext } = path.parse(row.file);
  for (let i = 1; ; i++) {
    const named = { ...row, file: i === 1 ? row.file : `${name}-${i}${ext}` };
    const to = mediaPath(row.session, named.file);
    try {
      await link(part, to);
      const taken = await takeName(named).catch(async (error: unknown) => {
        await unlink(to);
        throw error;
      });
      if (!taken) {
        await unlink(to);
        continue;
      }
      await unlink(part);
      return named;
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

/** A file at another rate that waits for a word before it is converted. */
export interface Asked {
  asked: { id: string; name: string; from: number; to: number };
}

type Format = Pick<SessionFormat, 'sampleRate' | 'wordLength'>;

interface Arrived {
  /** The file as it came, or as it was decoded. */
  part: string;
  name: string;
  /** What was said of how it was decoded. */
  notes: string[];
}

const waiting = () => shared('imports-waiting', () => new Map<string, Arrived & { session: string }>());

const removeAll = (...files: string[]) => Promise.all(files.map((f) => unlink(f).catch(() => {})));

/**
 * Takes a file into a session's media folder, converted where it is at another rate. Throws FileFault or Refused and
 * keeps nothing when it is unusable.
 */
export async function importFile(
  session: string,
  name: string,
  body: ReadableStream<Uint8Array>,
  format: Format,
): Promise<Imported> {
  return enter(session, await readable({ part: await arrive(session, body), name, notes: [] }), format);
}

/** The same, but one at another rate waits until it is said that it shall be converted (`finishImport`). */
export async function importAsking(
  session: string,
  name: string,
  body: ReadableStream<Uint8Array>,
  format: Format,
): Promise<Imported | Asked> {
  return enterFile(session, name, await arrive(session, body), format);
}

async function arrive(session: string, body: ReadableStream<Uint8Array>): Promise<string> {
  makeSessionDir(session);
  const part = mediaPath(session, `.${nanoid()}.part`);
  try {
    await pipeline(Readable.fromWeb(body as import('node:stream/web').ReadableStream), createWriteStream(part));
  } catch (error) {
    await removeAll(part);
    throw error;
  }
  return part;
}

/** Takes in what lies in the media folder already, under a name that begins with a dot; it is moved, waits, or is gone. */
export async function enterFile(
  session: string,
  name: string,
  part: string,
  format: Format,
): Promise<Imported | Asked> {
  const arrived = await readable({ part, name, notes: [] });
  const from = await rateOf(arrived.part).catch(async (error: unknown) => {
    await removeAll(arrived.part);
    throw error;
  });
  if (from === format.sampleRate) return enter(session, arrived, format);
  const id = nanoid();
  waiting().set(id, { ...arrived, session });
  return { asked: { id, name, from, to: format.sampleRate } };
}

/** Goes on with a file that waited: it is converted and taken in, or is gone. */
export async function finishImport(
  session: string,
  id: string,
  convert: boolean,
  format: Format,
): Promise<Imported | null> {
  const arrived = waiting().get(id);
  if (!arrived || arrived.session !== session)
    throw new Refused(410, 'That file does not wait here any more. Bring it in again.');
  waiting().delete(id);
  try {
    return convert ? await enter(session, arrived, format) : null;
  } finally {
    await removeAll(arrived.part);
  }
}

/** What is read here stays as it is; any other form is decoded, where there is something to decode it. */
async function readable(arrived: Arrived): Promise<Arrived> {
  try {
    await rateOf(arrived.part);
    return arrived;
  } catch (error) {
    if (!(error instanceof UnreadForm)) {
      await removeAll(arrived.part);
      throw error;
    }
    const part = `${arrived.part}.decoded`;
    try {
      const note = await decodeOther(arrived.part, part, arrived.name);
      return { ...arrived, part, notes: [note] };
    } catch (failed) {
      await removeAll(part);
      throw failed;
    } finally {
      await removeAll(arrived.part);
    }
  }
}

async function rateOf(file: string): Promise<number> {
  const source = await FileSource.open(file);
  try {
    return (await openAudio(newKernels(), source)).sampleRate;
  } finally {
    await source.close();
  }
}

async function enter(session: string, { part, name, notes: before }: Arrived, format: Format): Promise<Imported> {
  const { sampleRate, wordLength } = format;
  const made = `${part}.wav`;
  try {
    const source = await FileSource.open(part);
    const taken = await takeIn(source, part, made, name, sampleRate).finally(() => source.close());
    const { channels, frames } = taken;
    const file = `${wholeName(path.parse(name).name)}.wav`;
    const wanted = { id: nanoid(12), session, file, kind: 'file' as const, channels, frames, sampleRate };
    const row = await inTurn(`names of ${session}`, () => nameIn(made, wanted));
    await addMedia(row).catch(async (error: unknown) => {
      await giveName(row.id);
      await removeAll(mediaPath(session, row.file));
      throw error;
    });
    const notes = [...before, ...taken.told, ...taken.notes];
    if (taken.bits !== wordLength && before.length === 0)
      notes.push(`${taken.bits} bit where the session has ${wordLength}; nothing is lost.`);
    return {
      media: { ...toRef(row), ...taken.order },
      layout: taken.layout,
      timeReference: taken.timeReference,
      notes,
    };
  } catch (error) {
    await removeAll(part, made);
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
