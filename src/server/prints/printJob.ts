import { reachedFrom, sounds } from '@/core/paths';
import { access, link, mkdir, open, stat, unlink, type FileHandle } from 'node:fs/promises';
import path from 'node:path';
import { usesOf } from '@/core/checks';
import type { Kernels } from '@/core/kernels';
import {
  plainForm,
  printedDoc,
  printName,
  prove,
  sessionFileHeader,
  tailEnd,
  type PrintedFile,
  type Proof,
  type ProofInput,
  type SealedFile,
} from '@/core/print';
import { bytesPerSample, DATA_OFFSET, formatOfWord } from '@/core/files';
import { bitsOf, orderOf, playedOf, type Deliverable, type SessionDoc } from '@/core/session';
import { widthOf } from '@/core/speakers';
import { diskPaths, layOut, openFile, removeFile, stampOf, writeAll } from '../media';
import { printInParts } from './printParts';
import { sha256 } from './sha256';

export interface PrintJob {
  doc: SessionDoc;
  /** Path of each media file the session uses. */
  media: Record<string, string>;
  range: { start: number; end: number };
  version: number;
  /** Folder the files go to. */
  out: string;
  /** ISO time. */
  made: string;
  /** Threads that print beside each other; one unless given. */
  threads?: number;
  /** Files that are known to lack sound, each with what that means, where it is printed knowingly all the same. */
  lacking?: Readonly<Record<string, string>>;
  /** What stood in the way and was passed by knowingly, in sentences. */
  passedBy?: readonly string[];
}

export type PrintPhase = 'printing' | 'measuring';

const sealedFile = async (file: string): Promise<SealedFile> => ({
  file: path.basename(file),
  sha256: await sha256(file),
  bytes: (await stat(file)).size,
});

/** Throws where one of the files is there already. */
async function free(files: readonly string[]): Promise<void> {
  for (const file of files)
    if (
      await access(file).then(
        () => true,
        () => false,
      )
    )
      throw new Error(`${file} is there already; nothing is overwritten. Choose another folder or version.`);
}

/**
 * Prints all deliverables into a folder in one pass, measures the finished files and writes the header,
 * the loudness fields included. Existing files are never overwritten; what was begun is removed on failure.
 */
export async function runPrint(
  k: Kernels,
  job: PrintJob,
  onProgress: (phase: PrintPhase, share: number) => void,
  signal?: AbortSignal,
): Promise<Proof> {
  const { range, out } = job;
  const doc = printedDoc(job.doc);
  await mkdir(out, { recursive: true });
  const handles = new Map<string, FileHandle>();
  const names = new Map(doc.deliverables.map((d) => [d.id, printName(doc, d, range.start, job.version)]));
  const twice = [...names].find(([id, name]) => [...names].some(([o, n]) => o !== id && n === name));
  if (twice)
    throw new Error(
      `Two files of this print would be called ${twice[1]}; nothing was printed. Change the name pattern or the letters of one in the brief.`,
    );
  // Sound is printed into interleaved WAV; where the session asks for another form, that is made from it at the end.
  const plain = plainForm(doc);
  const finals = new Map([...names].map(([id, name]) => [id, path.join(out, name)]));
  // Under hidden names until they are sealed: what a stopped print leaves must not look finished.
  const hidden = (file: string) => path.join(/*turbopackIgnore: true*/ out, `.${path.basename(file)}`);
  const files = new Map(
    [...finals].map(([id, file], i) => [
      id,
      plain ? hidden(file) : path.join(/*turbopackIgnore: true*/ out, `.print-${i + 1}.wav`),
    ]),
  );
  const { tail } = doc.settings;
  const most = tail ? Math.round(tail.seconds * doc.format.sampleRate) : 0;
  const used = Object.keys(job.media).filter((id) => usesOf(doc, range).has(id) && !job.lacking?.[id]);
  const made: string[] = [];
  try {
    const before = await stamps(job.media, used);
    for (const d of doc.deliverables) {
      await free(diskPaths(finals.get(d.id)!));
      const file = files.get(d.id)!;
      handles.set(d.id, await open(file, 'wx'));
      made.push(file);
    }
    const printed = await printInParts(
      k,
      {
        doc,
        media: job.media,
        range,
        tail: most,
        files: Object.fromEntries(files),
        threads: job.threads ?? 1,
        lacking: Object.keys(job.lacking ?? {}),
      },
      (share) => onProgress('printing', share),
      signal,
    );
    const after = await stamps(job.media, used);
    const altered = used.find((id) => before.get(id) !== after.get(id));
    if (altered) throw new Error(`${doc.media[altered]?.name ?? altered} was changed while it was read; print again`);
    const kept = await endTogether(k, doc, printed, { handles, files }, range.end - range.start, signal);
    let sealed = 0;
    const inputs: (ProofInput & { close: () => Promise<void> })[] = [];
    for (const file of printed) {
      const d = file.deliverable;
      const handle = handles.get(d.id)!;
      const write = (measured?: Parameters<ProofInput['seal']>[0]) =>
        writeAll(handle, headerOf(doc, d, { start: range.start, frames: file.frames, measured, made: job.made }), 0);
      await write();
      const full = finals.get(d.id)!;
      const work = hidden(full);
      if (!plain) {
        signal?.throwIfAborted();
        await layOut(k, files.get(d.id)!, work);
        made.push(work);
        await removeFile(files.get(d.id)!);
      }
      const source = await openFile(work);
      inputs.push({
        printed: file,
        name: names.get(d.id)!,
        source,
        seal: async (facts) => {
          signal?.throwIfAborted();
          // Loudness is that of the whole: a file of one channel does not carry it, nor has an AIFF a place for it.
          if (plain) {
            await write(facts);
            await handle.sync();
          }
          await nameSealed(diskPaths(work), diskPaths(full));
          made.push(full);
          onProgress('measuring', ++sealed / printed.length);
          return Promise.all(diskPaths(full).map(sealedFile));
        },
        lacking: lackingIn(doc, d, job.lacking ?? {}),
        close: async () => void (await source.close()),
      });
    }
    const whole = { start: range.start, end: range.start + kept };
    const proof = await prove(k, doc, whole, inputs, job.made);
    await Promise.all(inputs.map((i) => i.close()));
    const behind = kept - (range.end - range.start);
    return {
      ...proof,
      ...(behind > 0 ? { tail: behind / doc.format.sampleRate } : {}),
      ...(job.passedBy?.length ? { passedBy: [...job.passedBy] } : {}),
    };
  } catch (error) {
    await Promise.all(made.map(removeFile));
    throw error;
  } finally {
    await Promise.all([...handles.values()].map((h) => h.close()));
  }
}

/**
 * Ends all files where the last of them has decayed, or where the tail ends that was typed: all are equally long. Gives
 * their frames.
 */
async function endTogether(
  k: Kernels,
  doc: SessionDoc,
  printed: readonly PrintedFile[],
  { handles, files }: { handles: ReadonlyMap<string, FileHandle>; files: ReadonlyMap<string, string> },
  frames: number,
  signal?: AbortSignal,
): Promise<number> {
  const { tail } = doc.settings;
  let end = frames;
  for (const { deliverable: d, frames: own } of printed) {
    if (tail?.until !== 'decayed') {
      end = Math.max(end, own);
      continue;
    }
    signal?.throwIfAborted();
    await writeAll(handles.get(d.id)!, headerOf(doc, d, { start: 0, frames: own, made: '' }), 0);
    const source = await openFile(files.get(d.id)!);
    end = Math.max(end, await tailEnd(k, source, frames).finally(() => source.close()));
  }
  for (const file of printed) {
    file.frames = Math.min(file.frames, end);
    const { deliverable: d } = file;
    const bytes = file.frames * bytesPerSample(formatOfWord(bitsOf(doc, d))) * widthOf(d.layout);
    // A chunk of a WAV takes an even number of bytes.
    await handles.get(d.id)!.truncate(DATA_OFFSET + bytes + (bytes & 1));
  }
  return end;
}

async function stamps(media: Record<string, string>, ids: readonly string[]): Promise<Map<string, string>> {
  // One that cannot be looked at is told when it is read, with its place.
  const all = ids.map(async (id) => [id, await stampOf(media[id]!).catch(() => 'gone')] as const);
  return new Map(await Promise.all(all));
}

// A name that is there is never taken: a link fails where a rename would write over.
async function nameSealed(from: readonly string[], to: readonly string[]): Promise<void> {
  for (const [i, file] of from.entries()) {
    await link(file, to[i]!);
    await unlink(file);
  }
}

const headerOf = (
  doc: SessionDoc,
  d: Deliverable,
  of: { start: number; frames: number; measured?: Parameters<ProofInput['seal']>[0]; made: string },
): Uint8Array =>
  sessionFileHeader(doc, {
    description: `${doc.name}, ${busName(doc, d.bus)}`,
    layout: d.layout,
    order: orderOf(doc, d),
    wordLength: d.wordLength,
    ...of,
  });

/** What is missing in a file, because its sources lack it. */
function lackingIn(doc: SessionDoc, d: Deliverable, lacking: Readonly<Record<string, string>>): string[] {
  return Object.entries(lacking).flatMap(([media, why]) =>
    playedOf(doc).tracks.some(
      (t) => t.clips.some((c) => c.media === media) && reachedFrom(doc, t.id, sounds).has(d.bus),
    )
      ? [why]
      : [],
  );
}

const busName = (doc: SessionDoc, bus: string): string => doc.buses.find((b) => b.id === bus)?.name ?? bus;
