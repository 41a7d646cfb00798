import { existsSync } from 'node:fs';
import { open, type FileHandle } from 'node:fs/promises';
import path from 'node:path';
import type { Worker } from 'node:worker_threads';
import { placeAt } from '@/core/checks';
import { compilePlan } from '@/core/engine';
import type { Kernels } from '@/core/kernels';
import {
  deliverablesOf,
  partsOf,
  printSession,
  type LeadInFrames,
  type PrintedFile,
  type PrintSink,
} from '@/core/print';
import type { SessionDoc } from '@/core/session';
import { appDir } from '../config';
import { WavReader, writeAll } from '../media';
import { roomFor, SharedExchange, type SharedRoom } from './sharedExchange';

export interface PartsJob {
  doc: SessionDoc;
  media: Record<string, string>;
  range: { start: number; end: number };
  leadIn?: LeadInFrames | null;
  /** Frames that are printed after it. */
  tail?: number;
  /** Path of each deliverable's file; they exist already. */
  files: Record<string, string>;
  /** Most threads. */
  threads: number;
  /** Measures while printing; the figures are those before rounding. */
  measure?: boolean;
  /** Files that are known to lack sound, and are printed as they are. */
  lacking?: readonly string[];
}

/** What a thread beside the first one is given. */
export interface PartTask extends Omit<PartsJob, 'threads'> {
  index: number;
  of: number;
  room: SharedRoom;
}

export type Printed = Omit<PrintedFile, 'deliverable'> & { id: string };
export type PartAnswer = { printed: Printed[] } | { error: string };

const READ_FRAMES = 16_384;

/** Reads the sources of a print. One that gives less than the session relies on ends it, with file, clip and place. */
export const readerOf = (
  k: Kernels,
  { doc, media, lacking = [] }: Pick<PartsJob, 'doc' | 'media' | 'lacking'>,
): WavReader =>
  new WavReader(
    k,
    (id) => media[id] ?? Promise.reject(new Error('it is missing')),
    READ_FRAMES,
    (id, from, why) => {
      if (lacking.includes(id)) return;
      const seconds = (from / doc.format.sampleRate).toFixed(2);
      throw new Error(
        `${doc.media[id]?.name ?? id} could not be read at ${seconds} s (${why}): ${placeAt(doc, id, from)} would be silent there`,
      );
    },
  );

export const sinkOf = (handle: FileHandle): PrintSink => ({
  write: (offset, bytes) => writeAll(handle, bytes, offset),
});

/** Prints one part into files that are there already. */
export async function printPart(
  k: Kernels,
  task: Omit<PartTask, 'room'>,
  exchanges: readonly SharedExchange[],
  onProgress: (share: number) => void,
  signal?: AbortSignal,
): Promise<PrintedFile[]> {
  const { doc, index, of } = task;
  const whole = compilePlan(k, doc, { mode: 'print' });
  const part = partsOf(whole, of)[index]!;
  const deliverables = deliverablesOf(whole, part, doc.deliverables);
  const reader = readerOf(k, task);
  const handles = new Map<string, FileHandle>();
  try {
    for (const d of deliverables) handles.set(d.id, await open(task.files[d.id]!, 'r+'));
    return await printSession(k, doc, reader.read, (d) => sinkOf(handles.get(d.id)!), {
      range: task.range,
      tail: task.tail,
      leadIn: task.leadIn,
      deliverables,
      part: { index, of, exchanges },
      measure: task.measure ?? false,
      signal,
      onProgress,
    });
  } finally {
    exchanges.forEach((e) => e.end());
    await reader.close();
    await Promise.all([...handles.values()].map((h) => h.close()));
  }
}

/**
 * Prints all deliverables of a session with several threads: this one makes the reference and its share of the
 * stems, the others make theirs and pass their sound on. The files are the same as with one thread, to the last
 * byte. Throws what the first part that fails throws; then the others have ended as well.
 */
export async function printInParts(
  k: Kernels,
  job: PartsJob,
  onProgress: (share: number) => void,
  signal?: AbortSignal,
): Promise<PrintedFile[]> {
  const { threads: most, ...rest } = job;
  const file = path.join(appDir(), 'dist', 'workers', 'part.mjs');
  // Without the built worker (run from sources) one thread does it all.
  const threads = existsSync(file) ? most : 1;
  const parts = partsOf(compilePlan(k, job.doc, { mode: 'print' }), threads);
  const of = parts.length === 1 ? 1 : threads;
  const { Worker: Thread } = process.getBuiltinModule('node:worker_threads');
  const helpers = parts.slice(1).map((part, i) => {
    const room = roomFor(part);
    const worker: Worker = new Thread(file, { workerData: { ...rest, index: i + 1, of, room } satisfies PartTask });
    return { worker, exchange: new SharedExchange(room, 'taker', signal), answer: answerOf(worker) };
  });
  for (const h of helpers) h.answer.catch(() => h.exchange.end());
  try {
    const own = await printPart(
      k,
      { ...rest, index: 0, of },
      helpers.map((h) => h.exchange),
      onProgress,
      signal,
    );
    const others = await Promise.all(helpers.map((h) => h.answer));
    const all = new Map(own.map((f) => [f.deliverable.id, f]));
    for (const { id, ...file } of others.flat())
      all.set(id, { ...file, deliverable: job.doc.deliverables.find((d) => d.id === id)! });
    return job.doc.deliverables.map((d) => all.get(d.id)!);
  } catch (error) {
    const [why] = (await Promise.allSettled(helpers.map((h) => h.answer))).flatMap((r) =>
      r.status === 'rejected' ? [r.reason as Error] : [],
    );
    // A part that only heard of another one's end is not the cause.
    throw why && /another part/.test((error as Error).message) ? why : error;
  } finally {
    await Promise.all(helpers.map((h) => h.worker.terminate()));
  }
}

function answerOf(worker: Worker): Promise<Printed[]> {
  return new Promise((resolve, reject) => {
    worker.on('message', (m: PartAnswer) => ('error' in m ? reject(new Error(m.error)) : resolve(m.printed)));
    worker.on('error', reject);
    worker.on('exit', () => reject(new Error('a thread of the print ended unexpectedly')));
  });
}
