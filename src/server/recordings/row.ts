import { stat } from 'node:fs/promises';
import { eq } from 'drizzle-orm';
import { bytesPerSample, DATA_OFFSET, formatOfWord } from '@/core/files';
import { channelNames, sessionFileHeader } from '@/core/print';
import type { SessionDoc } from '@/core/session';
import { mediaPath } from '../config';
import { alone, db, tables } from '../database';
import { Refused } from '../http';
import { shared } from '../shared';
import { gapNote, USUAL_NOTE } from './notes';

export type Row = typeof tables.recordings.$inferSelect;
export type RecordingPart = 'processed' | 'dry';
export const PARTS: readonly RecordingPart[] = ['processed', 'dry'];

export const fileOf = (row: Row, part: RecordingPart): string =>
  mediaPath(row.session, part === 'dry' ? row.dryFile : row.file);

export async function rowOf(id: string): Promise<Row> {
  const [row] = await (await db()).select().from(tables.recordings).where(eq(tables.recordings.id, id));
  if (!row) throw new Refused(404, `There is no recording "${id}".`);
  return row;
}

/** Recordings that roll, of each open database: every chunk of every line asks for its own. */
const rolling = () => shared('recordings-rolling', () => new WeakMap<object, Map<string, Row>>());

/** As `rowOf`; what rolls is read once, where no other process changes it. */
export async function rowOfChunk(id: string): Promise<Row> {
  if (!alone()) return rowOf(id);
  const of = await db();
  const known = rolling().get(of) ?? new Map<string, Row>();
  rolling().set(of, known);
  const row = known.get(id) ?? (await rowOf(id));
  if (row.state === 'rolling') known.set(id, row);
  return row;
}

export async function setRow(id: string, part: Partial<Row>): Promise<void> {
  const of = await db();
  await of.update(tables.recordings).set(part).where(eq(tables.recordings.id, id));
  rolling().get(of)?.delete(id);
}

/** The session with the format that the recording has had from its beginning. */
export function docOf(doc: SessionDoc, row: Row): SessionDoc {
  if (!row.format) return doc;
  const { layout: _own, ...format } = row.format;
  return { ...doc, format: { ...doc.format, ...format } };
}

/** Bytes of a frame in the files of a recording. */
export const blockBytes = (doc: SessionDoc, row: Row): number =>
  row.channels * bytesPerSample(formatOfWord(row.format?.wordLength ?? doc.format.wordLength));

const layoutOfRow = (doc: SessionDoc, row: Row) =>
  row.format?.layout ?? doc.tracks.find((t) => t.id === row.track)?.layout ?? 'mono';

export function channelsOf(doc: SessionDoc, row: Row): string[] {
  const names = channelNames(layoutOfRow(doc, row));
  return names.length === row.channels ? names : Array.from({ length: row.channels }, (_, c) => String(c + 1));
}

/** Whole frames of a part that lie on the disk behind its header. */
export async function framesOnDisk(doc: SessionDoc, row: Row, part: RecordingPart): Promise<number> {
  const { size } = await stat(fileOf(row, part)).catch(() => ({ size: 0 }));
  // A full disk may take a part of a frame: only whole ones count, and the rest is sent again.
  return Math.floor(Math.max(0, size - DATA_OFFSET) / blockBytes(doc, row));
}

/** Header of a part of `frames` frames. */
export function header(doc: SessionDoc, row: Row, part: RecordingPart, frames: number): Uint8Array {
  const own = docOf(doc, row);
  const track = doc.tracks.find((t) => t.id === row.track);
  const lost = gapNote(row.facts?.gaps, own.format.sampleRate);
  return sessionFileHeader(own, {
    description: `${track?.name ?? row.track}, take ${row.take}${part === 'dry' ? ', dry copy' : ''}`,
    layout: layoutOfRow(doc, row),
    start: row.start,
    frames,
    take: String(row.take),
    scene: doc.cues.find((c) => c.id === row.purpose?.cue)?.number,
    note: `${part === 'dry' ? 'Untouched copy of the line' : USUAL_NOTE}${lost ? `. ${lost}` : ''}`,
    trackNames: row.lineNames,
    made: row.startedAt.toISOString(),
  });
}
