import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { mkdir, open, stat, unlink, type FileHandle } from 'node:fs/promises';
import path from 'node:path';
import type { Kernels } from '@/core/kernels';
import { DATA_OFFSET } from '@/core/files';
import { printName, prove, sessionFileHeader, type Proof, type ProofInput } from '@/core/print';
import type { SessionDoc } from '@/core/session';
import { FileSource } from '../media';
import { printInParts } from './printParts';

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
}

export type PrintPhase = 'printing' | 'measuring';

async function sha256(file: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const piece of createReadStream(file)) hash.update(piece as Buffer);
  return hash.digest('hex');
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
  const { doc, range, out } = job;
  await mkdir(out, { recursive: true });
  const handles = new Map<string, FileHandle>();
  const names = new Map(doc.deliverables.map((d) => [d.id, printName(doc, d, range.start, job.version)]));
  const twice = [...names].find(([id, name]) => [...names].some(([o, n]) => o !== id && n === name));
  if (twice)
    throw new Error(
      `Two files of this print would be called ${twice[1]}; nothing was printed. Change the name pattern or the letters of one in the brief.`,
    );
  const made: string[] = [];
  try {
    for (const d of doc.deliverables) {
      const file = path.join(out, names.get(d.id)!);
      const handle = await open(file, 'wx').catch((error: NodeJS.ErrnoException) => {
        throw error.code === 'EEXIST'
          ? new Error(`${file} is there already; nothing is overwritten. Choose another folder or version.`)
          : error;
      });
      made.push(file);
      handles.set(d.id, handle);
    }
    const files = Object.fromEntries([...names].map(([id, name]) => [id, path.join(out, name)]));
    const printed = await printInParts(
      k,
      { doc, media: job.media, range, files, threads: job.threads ?? 1 },
      (share) => onProgress('printing', share),
      signal,
    );
    let sealed = 0;
    const inputs: (ProofInput & { close: () => Promise<void> })[] = [];
    for (const file of printed) {
      const d = file.deliverable;
      const handle = handles.get(d.id)!;
      const write = (measured?: Parameters<ProofInput['seal']>[0]) =>
        handle.write(
          sessionFileHeader(doc, {
            description: `${doc.name}, ${busName(doc, d.bus)}`,
            layout: d.layout,
            wordLength: d.wordLength,
            start: range.start,
            frames: file.frames,
            measured,
            made: job.made,
          }),
          0,
          DATA_OFFSET,
          0,
        );
      await write();
      const full = path.join(out, names.get(d.id)!);
      const source = await FileSource.open(full);
      inputs.push({
        printed: file,
        name: names.get(d.id)!,
        source,
        seal: async (facts) => {
          signal?.throwIfAborted();
          await write(facts);
          await handle.sync();
          onProgress('measuring', ++sealed / printed.length);
          return { sha256: await sha256(full), bytes: (await stat(full)).size };
        },
        close: () => source.close(),
      });
    }
    const proof = await prove(k, doc, range, inputs, job.made);
    await Promise.all(inputs.map((i) => i.close()));
    return proof;
  } catch (error) {
    await Promise.all(made.map((file) => unlink(file).catch(() => {})));
    throw error;
  } finally {
    await Promise.all([...handles.values()].map((h) => h.close()));
  }
}

const busName = (doc: SessionDoc, bus: string): string => doc.buses.find((b) => b.id === bus)?.name ?? bus;
