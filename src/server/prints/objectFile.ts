import { open } from 'node:fs/promises';
import { bytesPerSample, DATA_OFFSET, formatOfWord, JoinedSource } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { measureFile } from '@/core/measure';
import {
  againstBrief,
  finishFile,
  leadAt,
  objectLayout,
  objectOf,
  objectTracks,
  sessionFileHeader,
  sessionFileTrailer,
  whatOf,
  type FileProof,
  type NewFile,
} from '@/core/print';
import {
  wordLengthOf,
  ditherOf,
  limitsOf,
  rateOf,
  type Deliverable,
  type SessionDoc,
  type Track,
} from '@/core/session';
import { openFile, writeAll } from '../media';
import { mixed, nameSealed, readable, sealedFile, type Making } from './making';
import { sinkOf } from './printParts';

/** A file of objects: its sources are printed each for itself, and put side by side. */
export interface ObjectFile {
  deliverable: Deliverable;
  tracks: Track[];
  name: string;
  final: string;
  /** Where it is written until it is sealed. */
  file: string;
}

/** What is printed beside the files of a print for one of objects: each of its sources, as it is. */
export const objectParts = (doc: SessionDoc, d: Deliverable): { tracks: Track[]; parts: Deliverable[] } => {
  const tracks = objectTracks(doc, d.bus);
  if (tracks.length === 0)
    throw new Error(`${d.token} would hold no object: nothing of one channel with a place of its own comes to it`);
  return {
    tracks,
    parts: tracks.map((t) => ({ id: `${d.id}/${t.id}`, bus: t.id, layout: 'mono', token: t.id, wordLength: 32 })),
  };
};

/** Puts the printed sources of a file of objects side by side, says where each stands, measures and seals it. */
export async function sealObjects(
  k: Kernels,
  doc: SessionDoc,
  of: ObjectFile,
  pieces: readonly Making[],
  job: {
    /** Of the timeline, the tail with it; the file begins so many frames before. */
    range: { start: number; end: number };
    behind: number;
    gain: number;
    made: string;
    /** What is known to be missing in it, in sentences. */
    lacking: readonly string[];
    onMade: (file: string) => void;
    signal?: AbortSignal;
  },
): Promise<FileProof> {
  const { deliverable: d, tracks } = of;
  const sampleRate = rateOf(doc, d);
  const format = formatOfWord(wordLengthOf(doc, d));
  const printed = { ...doc, deliverables: pieces.map((p) => p.deliverable) };
  const sources = [];
  const handle = await open(of.file, 'wx');
  job.onMade(of.file);
  try {
    for (const p of pieces) sources.push(await readable(mixed(printed), p));
    const done = await finishFile(
      k,
      await JoinedSource.of(sources),
      sinkOf(handle),
      { format, dither: ditherOf(doc, d), sampleRate, gain: k.gain(job.gain), from: job.behind },
      job.signal,
    );
    const objects = tracks.map((t) => objectOf(doc, t, job.range, job.behind / doc.format.sampleRate));
    const places = objects.map(({ name, blocks: [first] }) => ({
      name,
      azimuth: first!.azimuth,
      elevation: first!.elevation,
    }));
    const file: NewFile = {
      ...{ description: `${doc.name}, ${whatOf(doc, d)} as objects`, layout: 'mono', adm: { objects } },
      ...(d.wordLength ? { wordLength: d.wordLength } : {}),
      ...{ sampleRate, start: job.range.start - job.behind, frames: done.frames, made: job.made },
      trackNames: tracks.map((t) => t.name),
    };
    const bytes = done.frames * tracks.length * bytesPerSample(format);
    await handle.truncate(DATA_OFFSET + bytes);
    await writeAll(handle, sessionFileTrailer(doc, file)!, DATA_OFFSET + bytes);
    await writeAll(handle, sessionFileHeader(doc, file), 0);
    const from = leadAt(doc, sampleRate);
    const source = await openFile(of.file);
    const measured = await measureFile(k, source, {
      ...{ as: objectLayout(places), from },
      ...(job.signal ? { signal: job.signal } : {}),
    }).finally(() => source.close());
    await writeAll(handle, sessionFileHeader(doc, { ...file, measured }), 0);
    await handle.sync();
    job.signal?.throwIfAborted();
    await nameSealed([of.file], [of.final]);
    job.onMade(of.final);
    const { hops: _, ...facts } = measured;
    return {
      deliverable: d.id,
      what: `${whatOf(doc, d)} as objects`,
      file: of.name,
      parts: [await sealedFile(of.final)],
      facts,
      objects: places,
      dither: ditherOf(doc, d),
      ...(from > 0 ? { lead: from } : {}),
      findings: [
        // Of sources side by side no loudness is asked: nobody hears them so.
        ...againstBrief(doc, measured, {
          deliverable: { ...d, limits: { ...limitsOf(doc, d), target: null } },
          channels: tracks.length,
          frames: Math.ceil(((job.range.end - file.start) * sampleRate) / doc.format.sampleRate),
          start: file.start,
          isReference: false,
          overs: done.overs,
          lacking: job.lacking,
        }),
        {
          grade: 'note',
          text: `${tracks.length} placed sources as objects, behind their chains and levels; what is wider or comes out of returns is in the mixes. Its figures are those of all side by side`,
        },
      ],
    };
  } finally {
    await Promise.all([handle.close(), ...sources.map((s) => s.close())]);
  }
}
