import { open, stat } from 'node:fs/promises';
import { crc32 } from 'node:zlib';
import { and, eq } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { DATA_OFFSET } from '@/core/files';
import { safeName } from '@/core/print';
import { applyEdit, isPlainId, readEdit, trackOf, type SessionDoc, type WordLength } from '@/core/session';
import { widthOf } from '@/core/speakers';
import type { BeginRecording, FinishRecording } from '@/core/wire';
import { makeSessionDir, mediaPath } from '../config';
import { db, tables } from '../database';
import { Refused } from '../http';
import { FileSink, removeFile, toRef } from '../media';
import { loadSession } from '../sessions';
import { shared } from '../shared';
import { inTurn } from '../turns';
import { enter, mediaOfPart, takeEdit, withFault } from './enter';
import {
  blockBytes,
  fileOf,
  framesOnDisk,
  header,
  PARTS,
  rowOf,
  rowOfChunk,
  setRow,
  type RecordingPart,
  type Row,
} from './row';

export interface RecordingFacts {
  id: string;
  take: number;
  state: Row['state'];
  file: string;
  /** Bytes of samples that are safe on disk, per part. */
  received: Record<RecordingPart, number>;
  faults: string[];
}

async function received(doc: SessionDoc, row: Row, part: RecordingPart): Promise<number> {
  const block = blockBytes(doc, row);
  // A finished one may lie on disk in another form.
  if (row.state === 'finished') {
    const m = tables.media;
    const [media] = await (
      await db()
    )
      .select()
      .from(m)
      .where(eq(m.id, `${row.id}-${part}`));
    if (media) return media.frames * block;
  }
  return (await framesOnDisk(doc, row, part)) * block;
}

async function factsOf(row: Row): Promise<RecordingFacts> {
  const { doc } = await loadSession(row.session);
  return {
    id: row.id,
    take: row.take,
    state: row.state,
    file: row.file,
    received: { processed: await received(doc, row, 'processed'), dry: await received(doc, row, 'dry') },
    faults: row.facts?.faults ?? [],
  };
}

const WORDS: readonly WordLength[] = [16, 24, 32];

// What could not be entered later is refused now, while the browser still holds everything.
function checked(doc: SessionDoc, row: Row): void {
  const files = {
    media: toRef(mediaOfPart(doc, row, 'processed', 1, row.file)),
    dry: row.keepDry ? toRef(mediaOfPart(doc, row, 'dry', 1, row.dryFile)) : null,
  };
  applyEdit(doc, readEdit(takeEdit(row, files, false)));
}

/** Opens the files of a take and enters it as rolling. The same id again is answered with what is there. */
export function beginRecording(session: string, asked: BeginRecording): Promise<RecordingFacts> {
  if (!isPlainId(asked.id)) throw new Refused(400, 'The id of a recording is made of letters, digits, _ and -.');
  return inTurn(`recording ${asked.id}`, () => inTurn(`names of ${session}`, () => begin(session, asked)));
}

async function begin(session: string, asked: BeginRecording): Promise<RecordingFacts> {
  const r = tables.recordings;
  const [known] = await (await db()).select().from(r).where(eq(r.id, asked.id));
  if (known) {
    if (known.session !== session) throw new Refused(409, `The recording "${asked.id}" belongs to another session.`);
    return factsOf(known);
  }
  const { doc } = await loadSession(session);
  const track = trackOf(doc, asked.track);
  const now = doc.format;
  const { sampleRate, wordLength } = asked.format ?? now;
  if (!WORDS.includes(wordLength) || !Number.isSafeInteger(sampleRate))
    throw new Refused(422, 'A recording has 16, 24 or 32 bits and a whole sample rate; none was begun.');
  const earlier = await (
    await db()
  )
    .select({ track: r.track, take: r.take, file: r.file })
    .from(r)
    .where(eq(r.session, session));
  const own = earlier.filter((e) => e.track === track.id).map((e) => e.take);
  const take = 1 + Math.max(0, ...own, ...track.takes.map((t) => t.number));
  const plain = `${safeName(doc.code)}_${safeName(track.name)}`;
  const number = `T${String(take).padStart(2, '0')}`;
  // Two tracks of one name must not share a file.
  const wanted = `${plain}_${number}.wav`;
  const m = tables.media;
  const [other] = await (
    await db()
  )
    .select({ id: m.id })
    .from(m)
    .where(and(eq(m.session, session), eq(m.file, wanted)));
  const taken =
    other !== undefined ||
    earlier.some((e) => e.file === wanted) ||
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
    reason: null,
    file: `${stem}.wav`,
    dryFile: `${stem}_dry.wav`,
    format: {
      sampleRate,
      wordLength,
      fileKind: now.fileKind,
      perChannel: now.perChannel,
      frameRate: now.frameRate,
      startTimecode: now.startTimecode,
      layout: track.layout,
    },
    facts: null,
    chains: asked.chains,
    startedAt: new Date(),
    keepDry: asked.keepDry ?? true,
    purpose: asked.purpose ?? null,
    lineNames: track.inputs.map((l, c) => doc.lines.find((x) => x.id === l)?.name ?? `channel ${c + 1}`),
  };
  if (asked.block !== undefined && asked.block !== blockBytes(doc, row))
    throw new Refused(
      422,
      `${track.name} has ${row.channels} channels, so a frame takes ${blockBytes(doc, row)} bytes, not ${asked.block}. The take stays in the browser.`,
    );
  checked({ ...doc, format: { ...doc.format, sampleRate } }, row);
  makeSessionDir(session);
  const begun: string[] = [];
  try {
    for (const part of PARTS) {
      const sink = await FileSink.create(fileOf(row, part));
      begun.push(fileOf(row, part));
      await sink.put(0, header(doc, row, part, 0)).finally(() => sink.close());
    }
    await (await db()).insert(r).values(row);
  } catch (error) {
    // Tried again later, the names must be free.
    for (const file of begun) await removeFile(file);
    throw error;
  }
  return factsOf(row);
}

/** Recordings whose files were found to differ: what is sent for them once more takes the place of what is there. */
const differing = () => shared('recordings-differing', () => new Set<string>());

/**
 * Writes samples at `offset` (bytes from the first sample); `crc`: their CRC-32, where the sender tells it. The same
 * bytes again do no harm, others in their place are refused, and so is a gap, with the offset that is expected.
 */
export function writeChunk(
  id: string,
  part: string,
  offset: number,
  bytes: Uint8Array,
  crc?: number,
): Promise<{ received: number }> {
  return inTurn(`recording ${id}`, () => write(id, part, offset, bytes, crc));
}

async function write(id: string, part: string, offset: number, bytes: Uint8Array, crc?: number) {
  const row = await rowOfChunk(id);
  if (!PARTS.includes(part as RecordingPart))
    throw new Refused(404, `A recording has the parts "processed" and "dry", not "${part}".`);
  const which = part as RecordingPart;
  const { doc } = await loadSession(row.session);
  const block = blockBytes(doc, row);
  const have = await received(doc, row, which);
  if (!Number.isSafeInteger(offset) || offset < 0 || offset % block !== 0 || bytes.length % block !== 0) {
    throw new Refused(
      422,
      `Offset ${offset} and ${bytes.length} bytes do not fall on whole frames of ${block} bytes. ${have} bytes are kept.`,
      { expected: have },
    );
  }
  if (crc !== undefined && crc32(bytes) !== crc)
    throw new Refused(503, `A piece of the take was altered on its way; it was not kept. Send from ${have} on.`, {
      expected: have,
    });
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
  if (!differing().has(id)) await refuseOther(fileOf(row, which), offset, bytes, have);
  const sink = await sinkOf(row, which, have);
  try {
    await sink.put(DATA_OFFSET + offset, bytes);
    const now = Math.max(have, offset + bytes.length);
    // With every chunk the header tells the new length: the file opens anywhere at any time.
    await sink.put(0, header(doc, row, which, now / block));
    await sink.sync();
    return { received: now };
  } finally {
    await sink.close();
  }
}

// The file of a take lies where it began. Where another server goes on with it, the browser sends it from its start.
function sinkOf(row: Row, part: RecordingPart, have: number): Promise<FileSink> {
  const file = fileOf(row, part);
  return FileSink.open(file).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'ENOENT' || have > 0) throw error;
    makeSessionDir(row.session);
    return FileSink.create(file);
  });
}

// A repeat with other samples is a mistake somewhere: nothing may be written over in silence.
async function refuseOther(file: string, offset: number, bytes: Uint8Array, have: number): Promise<void> {
  const known = Math.min(bytes.length, have - offset);
  if (known <= 0) return;
  const there = Buffer.alloc(known);
  const handle = await open(file, 'r');
  const { bytesRead } = await handle.read(there, 0, known, DATA_OFFSET + offset).finally(() => handle.close());
  if (bytesRead === known && there.equals(bytes.subarray(0, known))) return;
  throw new Refused(
    422,
    `These samples differ from those that are kept from byte ${offset} on. What was kept first stays; nothing was written over.`,
    { expected: have },
  );
}

/** Ends a recording: the files are complete and compared, the take is entered on its track. Again: no harm. */
export function finishRecording(id: string, ending: FinishRecording): Promise<RecordingFacts> {
  return inTurn(`recording ${id}`, () => finish(id, ending));
}

async function finish(id: string, { frames, shownEnd, facts, sums, last }: FinishRecording): Promise<RecordingFacts> {
  const row = await rowOf(id);
  if (row.state === 'finished') return factsOf(row);
  const { doc } = await loadSession(row.session);
  const block = blockBytes(doc, row);
  if (typeof shownEnd === 'number' && row.purpose?.show) row.purpose.show.end = shownEnd;
  if (facts) row.facts = facts;
  for (const part of PARTS) {
    const have = await received(doc, row, part);
    if (have < frames * block)
      throw new Refused(
        409,
        `${frames * block - have} bytes of the ${part} part are still missing. What is there is kept.`,
        { expected: have, part },
      );
    if (have > frames * block && !differing().has(id))
      throw new Refused(
        422,
        `${have / block} frames of the ${part} part are there, more than the ${frames} that the take is said to have. All of them are kept.`,
      );
  }
  await compareSums(row, block, frames, sums ?? {}, last ?? false);
  await setRow(id, { purpose: row.purpose, facts: row.facts });
  const why = noPlaceFor(row, doc);
  if (why) {
    await setRow(id, { state: 'aside', reason: why });
    throw new Refused(422, why);
  }
  await enter(doc, row, frames, row.state === 'recovered' ? 'complete' : 'finished');
  differing().delete(id);
  return factsOf(await rowOf(id));
}

/** Why a take cannot be entered in the session as it is now; null where it can. */
export function noPlaceFor(row: Row, doc: SessionDoc): string | null {
  if (row.format && row.format.sampleRate !== doc.format.sampleRate) return otherRate(row, doc);
  if (doc.tracks.some((t) => t.id === row.track)) return null;
  return `The track that ${row.file} was recorded on was removed meanwhile. The file is kept in the session's media folder; bring it in like any other.`;
}

const otherRate = (row: Row, doc: SessionDoc): string =>
  `${row.file} was recorded at ${row.format!.sampleRate} Hz, and the session is at ${doc.format.sampleRate} Hz now. The file is kept in the session's media folder; bring it in like any other, it is converted then.`;

// A power cut can leave a file of the right length with other bytes in it: then all is sent once more.
async function compareSums(row: Row, block: number, frames: number, sums: FinishRecording['sums'], last: boolean) {
  for (const part of PARTS) {
    const wanted = sums?.[part] ?? undefined;
    if (wanted === undefined || (await sumOf(fileOf(row, part), frames * block)) === wanted) continue;
    if (!last) {
      differing().add(row.id);
      throw new Refused(409, `The ${part} part differs from what was recorded; it is asked for once more.`, {
        expected: 0,
        part,
      });
    }
    row.facts = withFault(row.facts, `The file (${part}) is not what was recorded: its checksum differs.`);
  }
}

async function sumOf(file: string, bytes: number): Promise<number> {
  const handle = await open(file, 'r');
  const piece = Buffer.alloc(1 << 20);
  let sum = 0;
  try {
    for (let done = 0; done < bytes;) {
      const { bytesRead } = await handle.read(piece, 0, Math.min(piece.length, bytes - done), DATA_OFFSET + done);
      if (bytesRead === 0) break;
      sum = crc32(piece.subarray(0, bytesRead), sum);
      done += bytesRead;
    }
  } finally {
    await handle.close();
  }
  return sum;
}

export const recordingFacts = async (id: string): Promise<RecordingFacts> => factsOf(await rowOf(id));

export const newRecordingId = (): string => nanoid(12);
