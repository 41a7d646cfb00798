import { stat } from 'node:fs/promises';
import path from 'node:path';
import { eq } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { bytesPerSample, DATA_OFFSET, formatOfWord } from '@/core/files';
import { channelNames, safeName, sessionFileHeader } from '@/core/print';
import { trackOf, type SessionDoc, type Stage, type TakePurpose } from '@/core/session';
import { widthOf } from '@/core/speakers';
import { mediaPath } from '../config';
import { db, tables } from '../database';
import { Refused } from '../http';
import { log } from '../log';
import { addMedia, FileSink, inForm, removeFile, toRef } from '../media';
import { openSession, serverEdit } from '../sessions';
import { shared } from '../shared';
import { USUAL_NOTE } from './fileNotes';

type Row = typeof tables.recordings.$inferSelect;
export type RecordingPart = 'processed' | 'dry';
const PARTS: readonly RecordingPart[] = ['processed', 'dry'];

export interface RecordingFacts {
  id: string;
  take: number;
  state: Row['state'];
  file: string;
  /** Bytes of samples that are safe on disk, per part. */
  received: Record<RecordingPart, number>;
}

const fileOf = (row: Row, part: RecordingPart): string =>
  mediaPath(row.session, part === 'dry' ? row.dryFile : row.file);

async function rowOf(id: string): Promise<Row> {
  const [row] = await (await db()).select().from(tables.recordings).where(eq(tables.recordings.id, id));
  if (!row) throw new Refused(404, `There is no recording "${id}".`);
  return row;
}

async function received(row: Row, part: RecordingPart): Promise<number> {
  // A finished one may lie on disk in another form.
  if (row.state === 'finished') {
    const [media] = await (
      await db()
    )
      .select()
      .from(tables.media)
      .where(eq(tables.media.id, `${row.id}-${part}`));
    const { doc } = await openSession(row.session);
    if (media) return media.frames * blockBytes(doc, row);
  }
  const { size } = await stat(fileOf(row, part)).catch(() => ({ size: 0 }));
  const bytes = Math.max(0, size - DATA_OFFSET);
  // A full disk may take a part of a frame: only whole ones count, and the rest is sent again.
  return bytes - (bytes % blockBytes((await openSession(row.session)).doc, row));
}

const factsOf = async (row: Row): Promise<RecordingFacts> => ({
  id: row.id,
  take: row.take,
  state: row.state,
  file: row.file,
  received: { processed: await received(row, 'processed'), dry: await received(row, 'dry') },
});

const blockBytes = (doc: SessionDoc, row: Row): number =>
  row.channels * bytesPerSample(formatOfWord(doc.format.wordLength));

const channelsOf = (doc: SessionDoc, row: Row): string[] => {
  const layout = doc.tracks.find((t) => t.id === row.track)?.layout;
  return layout ? channelNames(layout) : Array.from({ length: row.channels }, (_, c) => String(c + 1));
};

function header(doc: SessionDoc, row: Row, part: RecordingPart, frames: number): Uint8Array {
  const track = doc.tracks.find((t) => t.id === row.track);
  return sessionFileHeader(doc, {
    description: `${track?.name ?? row.track}, take ${row.take}${part === 'dry' ? ', dry copy' : ''}`,
    layout: track?.layout ?? 'mono',
    start: row.start,
    frames,
    take: String(row.take),
    scene: doc.cues.find((c) => c.id === row.purpose?.cue)?.number,
    note: part === 'dry' ? 'Untouched copy of the line' : USUAL_NOTE,
    trackNames: row.lineNames,
    made: row.startedAt.toISOString(),
  });
}

export interface NewRecording {
  id: string;
  track: string;
  /** Timeline sample of the first frame. */
  start: number;
  chains: Stage[][];
  /** Whether the untouched copy stays once the take is complete; true unless told. */
  keepDry?: boolean;
  purpose?: TakePurpose | null;
}

/** Opens the files of a take and enters it as rolling. The same id again is answered with what is there. */
export async function beginRecording(session: string, asked: NewRecording): Promise<RecordingFacts> {
  const known = await (await db()).select().from(tables.recordings).where(eq(tables.recordings.id, asked.id));
  if (known[0]) return factsOf(known[0]);
  const { doc } = await openSession(session);
  const track = trackOf(doc, asked.track);
  const earlier = await (
    await db()
  )
    .select({ track: tables.recordings.track, take: tables.recordings.take, file: tables.recordings.file })
    .from(tables.recordings)
    .where(eq(tables.recordings.session, session));
  const own = earlier.filter((r) => r.track === track.id).map((r) => r.take);
  const take = 1 + Math.max(0, ...own, ...track.takes.map((t) => t.number));
  const plain = `${safeName(doc.code)}_${safeName(track.name)}`;
  const number = `T${String(take).padStart(2, '0')}`;
  // Two tracks of one name must not share a file.
  const wanted = `${plain}_${number}.wav`;
  const taken =
    earlier.some((r) => r.file === wanted) ||
    (await stat(mediaPath(session, wanted)).then(
      () => true,
      () => false,
    ));
  const stem = `${plain}${taken ? `_${safeName(track.id)}` : ''}_${number}`;
  const row: Row = {
    id: asked.id,
    session,
    track: track.id,
    take,
    start: asked.start,
    channels: widthOf(track.layout),
    state: 'rolling',
    file: `${stem}.wav`,
    dryFile: `${stem}_dry.wav`,
    chains: asked.chains,
    startedAt: new Date(),
    keepDry: asked.keepDry ?? true,
    purpose: asked.purpose ?? null,
    lineNames: track.inputs.map((l, c) => doc.lines.find((x) => x.id === l)?.name ?? `channel ${c + 1}`),
  };
  const begun: string[] = [];
  try {
    for (const part of PARTS) {
      const sink = await FileSink.create(fileOf(row, part));
      begun.push(fileOf(row, part));
      await sink.put(0, header(doc, row, part, 0)).finally(() => sink.close());
    }
    await (await db()).insert(tables.recordings).values(row);
  } catch (error) {
    // Tried again later, the names must be free.
    for (const file of begun) await removeFile(file);
    throw error;
  }
  return factsOf(row);
}

/**
 * Writes samples at `offset` (bytes from the first sample). Repeats do no harm; a gap is refused with the
 * offset that is expected, so that nothing is missing in between.
 */
export async function writeChunk(
  id: string,
  part: string,
  offset: number,
  bytes: Uint8Array,
): Promise<{ received: number }> {
  const row = await rowOf(id);
  if (!PARTS.includes(part as RecordingPart))
    throw new Refused(404, `A recording has the parts "processed" and "dry", not "${part}".`);
  const { doc } = await openSession(row.session);
  const block = blockBytes(doc, row);
  const have = await received(row, part as RecordingPart);
  if (!Number.isSafeInteger(offset) || offset < 0 || offset % block !== 0 || bytes.length % block !== 0) {
    throw new Refused(
      422,
      `Offset ${offset} and ${bytes.length} bytes do not fall on whole frames of ${block} bytes. ${have} bytes are kept.`,
      { expected: have },
    );
  }
  if (offset > have)
    throw new Refused(
      409,
      `The chunk starts at byte ${offset}, but only ${have} bytes are there. Those are kept; send from ${have} on.`,
      { expected: have },
    );
  if (row.state === 'finished') {
    if (offset + bytes.length <= have) return { received: have };
    throw new Refused(409, 'This recording is finished; its file is not changed any more.', { expected: have });
  }
  const sink = await FileSink.open(fileOf(row, part as RecordingPart));
  try {
    await sink.put(DATA_OFFSET + offset, bytes);
    const now = Math.max(have, offset + bytes.length);
    // With every chunk the header tells the new length: the file opens anywhere at any time.
    await sink.put(0, header(doc, row, part as RecordingPart, now / block));
    await sink.sync();
    return { received: now };
  } finally {
    await sink.close();
  }
}

const finishing = () => shared('recordings-finishing', () => new Map<string, Promise<RecordingFacts>>());

/**
 * Ends a recording: the files are complete, the take is entered on its track. `shownEnd`: sample of the timeline where
 * what is heard of it ends, when it was ended by hand. Again, even meanwhile: no harm.
 */
export function finishRecording(id: string, frames: number, shownEnd?: number): Promise<RecordingFacts> {
  const going = finishing().get(id);
  if (going) return going;
  const done = finish(id, frames, shownEnd).finally(() => finishing().delete(id));
  finishing().set(id, done);
  return done;
}

async function finish(id: string, frames: number, shownEnd?: number): Promise<RecordingFacts> {
  const row = await rowOf(id);
  if (shownEnd !== undefined && row.purpose?.show) row.purpose.show.end = shownEnd;
  if (row.state === 'finished') return factsOf(row);
  const { doc } = await openSession(row.session);
  const block = blockBytes(doc, row);
  for (const part of PARTS) {
    const have = await received(row, part);
    if (have < frames * block)
      throw new Refused(
        409,
        `${frames * block - have} bytes of the ${part} part are still missing. What is there is kept.`,
        { expected: have, part },
      );
  }
  await enter(doc, row, frames, row.state === 'recovered' ? 'complete' : 'finished');
  return factsOf(await rowOf(id));
}

async function enter(
  doc: SessionDoc,
  row: Row,
  frames: number,
  how: 'finished' | 'recovered' | 'complete',
): Promise<void> {
  const refs = [];
  const replaced: string[] = [];
  for (const part of PARTS) {
    if (part === 'dry' && !row.keepDry) continue;
    const written = fileOf(row, part);
    // One that was cut off may still grow, so it stays as it is written.
    const kept = how === 'finished' ? await inForm(doc, written, channelsOf(doc, row)) : written;
    if (kept !== written) replaced.push(written);
    const media = {
      id: `${row.id}-${part}`,
      session: row.session,
      file: path.basename(kept),
      kind: part === 'dry' ? ('dry' as const) : ('take' as const),
      channels: row.channels,
      frames,
      sampleRate: doc.format.sampleRate,
    };
    await addMedia(media);
    refs.push(toRef(media));
  }
  const [media, dry] = refs as [(typeof refs)[0], (typeof refs)[0] | undefined];
  if (how === 'complete') {
    await serverEdit(row.session, { type: 'lengthenTake', take: row.id, frames });
  } else if (doc.tracks.some((t) => t.id === row.track)) {
    await serverEdit(row.session, {
      type: 'addTake',
      id: row.id,
      track: row.track,
      start: row.start,
      media,
      dry: dry ?? null,
      chains: row.chains.length ? row.chains : [[]],
      recordedAt: row.startedAt.toISOString(),
      recovered: how === 'recovered',
      ...(row.purpose ?? {}),
    });
  }
  await (
    await db()
  )
    .update(tables.recordings)
    .set({ state: how === 'recovered' ? 'recovered' : 'finished' })
    .where(eq(tables.recordings.id, row.id));
  for (const file of replaced) await removeFile(file);
  // What was cut off may still be completed by the browser: until then its copy is needed.
  if (!row.keepDry && how !== 'recovered') await removeFile(fileOf(row, 'dry'));
}

export const recordingFacts = async (id: string): Promise<RecordingFacts> => factsOf(await rowOf(id));

/** After a restart: whatever was rolling is entered as far as it reached the disk. */
export async function recoverRecordings(): Promise<void> {
  const open = await (await db()).select().from(tables.recordings).where(eq(tables.recordings.state, 'rolling'));
  for (const row of open) {
    const { doc } = await openSession(row.session);
    const have = Math.min(await received(row, 'processed'), await received(row, 'dry'));
    const frames = Math.floor(have / blockBytes(doc, row));
    if (frames === 0) {
      await (await db()).update(tables.recordings).set({ state: 'empty' }).where(eq(tables.recordings.id, row.id));
      continue;
    }
    await enter(doc, row, frames, 'recovered');
    log.warn(
      { file: row.file, seconds: frames / doc.format.sampleRate },
      'a recording that was cut off is on its track',
    );
  }
}

export const newRecordingId = (): string => nanoid(12);
