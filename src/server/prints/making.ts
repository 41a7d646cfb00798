import { link, stat, unlink, type FileHandle } from 'node:fs/promises';
import path from 'node:path';
import {
  sessionFileHeader,
  sessionFileTrailer,
  whatOf,
  type NewFile,
  type PrintedFile,
  type ProofInput,
  type SealedFile,
} from '@/core/print';
import { bytesPerSample, DATA_OFFSET, formatOfWord } from '@/core/files';
import { admOf, wordLengthOf, orderOf, rateOf, type Deliverable, type SessionDoc } from '@/core/session';
import { widthOf } from '@/core/speakers';
import { openFile, writeAll } from '../media';
import { sha256 } from '../sha256';

/** A file of a range on its way: under a hidden name until it is sealed. */
export interface Making {
  deliverable: Deliverable;
  /** Its name, and the path that it gets in the end. */
  name: string;
  final: string;
  /** Where it is printed to now. */
  file: string;
  handle: FileHandle;
  printed: PrintedFile;
}

/** What lies on disk under a name. */
export const sealedFile = async (file: string): Promise<SealedFile> => ({
  file: path.basename(file),
  sha256: await sha256(file),
  bytes: (await stat(file)).size,
});

/** Whether a file is made of what was printed, after the mix. */
export const isMadeAfter = (doc: SessionDoc, d: Deliverable): boolean =>
  doc.printing?.toTarget === true || rateOf(doc, d) !== doc.format.sampleRate;

/** The session as the mix is printed: what is made after it stays in floating point until then. */
export const mixed = (doc: SessionDoc): SessionDoc => ({
  ...doc,
  deliverables: doc.deliverables.map((d) => (isMadeAfter(doc, d) ? { ...d, wordLength: 32 } : d)),
});

/** A file as it was printed, with a header that says how much of it there is. */
export async function readable(doc: SessionDoc, m: Making) {
  const mix = doc.deliverables.find((d) => d.id === m.deliverable.id)!;
  const { sampleRate: _, adm: _adm, ...atSessionRate } = mix;
  await writeAll(m.handle, headerOf(doc, atSessionRate, { start: 0, frames: m.printed.frames, made: '' }), 0);
  return openFile(m.file);
}

// What a BW64 says of its channels stands behind them.
export async function behindSamples(doc: SessionDoc, m: Making, of: HeaderFacts): Promise<void> {
  const d = m.deliverable;
  const trailer = sessionFileTrailer(doc, fileOf(doc, d, of));
  if (!trailer) return;
  const bytes = of.frames * bytesPerSample(formatOfWord(wordLengthOf(doc, d))) * widthOf(d.layout);
  await writeAll(m.handle, trailer, DATA_OFFSET + bytes);
}

// A name that is there is never taken: a link fails where a rename would write over.
export async function nameSealed(from: readonly string[], to: readonly string[]): Promise<void> {
  for (const [i, file] of from.entries()) {
    await link(file, to[i]!);
    await unlink(file);
  }
}

export interface HeaderFacts {
  start: number;
  frames: number;
  measured?: Parameters<ProofInput['seal']>[0];
  made: string;
}

export const headerOf = (doc: SessionDoc, d: Deliverable, of: HeaderFacts): Uint8Array =>
  sessionFileHeader(doc, fileOf(doc, d, of));

function fileOf(doc: SessionDoc, d: Deliverable, of: HeaderFacts): NewFile {
  return {
    description: `${doc.name}, ${whatOf(doc, d)}`,
    layout: d.layout,
    order: orderOf(doc, d),
    wordLength: d.wordLength,
    sampleRate: rateOf(doc, d),
    adm: admOf(doc, d) === 'bed' ? 'bed' : null,
    ...of,
  };
}
