// What comes out of an archive is bounded by what the archive says of itself: a small one may unpack to a disk full.
import { statfs } from 'node:fs/promises';
import yauzl from 'yauzl';
import { dataDir } from '../config';
import { Refused } from '../http';

const MOST_FILES = 50_000;
/** Share of what is free that may be unpacked. */
const MOST_OF_DISK = 0.9;
/** Bytes of the widest sample, and what a file may hold beside its samples (notes, cues, a picture). */
const SAMPLE_BYTES = 8;
const BESIDE_SAMPLES = 64 << 20;

// What the reader of archives, or of what is packed in them, throws at bytes that are none.
const ofBytes = (error: unknown): boolean =>
  error instanceof Error &&
  (error.constructor === Error || /^(Z_|ERR_STREAM|ERR_BUFFER)/.test((error as NodeJS.ErrnoException).code ?? '')) &&
  !(error as NodeJS.ErrnoException).syscall;

/** Works on an archive. Throws Refused where it is none, or is damaged anywhere; `what` says what it should be. */
export async function inZip<T>(file: string, what: string, work: (zip: yauzl.ZipFile) => Promise<T>): Promise<T> {
  const zip = await yauzl.openPromise(file, { autoClose: false }).catch(() => {
    throw new Refused(422, `This file is no ZIP archive; ${what} is one. Nothing was brought in.`);
  });
  try {
    return await work(zip);
  } catch (error) {
    if (!ofBytes(error)) throw error;
    throw new Refused(422, `The archive is damaged (${(error as Error).message}). Nothing was brought in.`);
  } finally {
    zip.close();
  }
}

/** The entries of an archive by their names. Throws Refused where there are too many. */
export async function entriesOf(zip: yauzl.ZipFile): Promise<Map<string, yauzl.Entry>> {
  if (zip.entryCount > MOST_FILES) throw new Refused(422, 'The archive holds too many files. Nothing was brought in.');
  const entries = new Map<string, yauzl.Entry>();
  for await (const entry of zip.eachEntry()) entries.set(entry.fileName, entry);
  return entries;
}

/** Throws Refused where a file is larger than the sound that it is said to hold. */
export function asLargeAsItsSound(entry: yauzl.Entry, sound: { channels: number; frames: number }): void {
  if (entry.uncompressedSize > sound.channels * sound.frames * SAMPLE_BYTES + BESIDE_SAMPLES)
    throw new Refused(
      422,
      `${entry.fileName} would be ${(entry.uncompressedSize / 1e6).toFixed(0)} MB, more than its sound can take. Nothing was brought in.`,
    );
}

/** Throws Refused where the disk has no room for so many bytes. */
export async function roomFor(bytes: number): Promise<void> {
  const { bavail, bsize } = await statfs(dataDir());
  if (bytes > bavail * bsize * MOST_OF_DISK)
    throw new Refused(
      507,
      `The disk has no room for this: it needs ${(bytes / 1e9).toFixed(1)} GB. Nothing was brought in.`,
    );
}
