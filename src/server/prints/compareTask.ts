import path from 'node:path';
import { AudioWriter } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { compareFile, takeApart, type FileChange, type FilePair, type FileProof } from '@/core/print';
import { layoutOf } from '@/core/speakers';
import { Refused } from '../http';
import { FileSink, openFile } from '../media';

/** Where the files of two prints lie. */
export interface CompareTask {
  kind: 'compare' | 'difference';
  pairs: FilePair[];
  before: string;
  after: string;
  /** Of a difference: the file that it is written to. */
  to?: string;
}

/** Does a task; on a thread of its own. */
export async function doCompare(k: Kernels, task: CompareTask): Promise<FileChange[] | null> {
  const open = (file: FileProof, of: 'before' | 'after') => openFile(path.join(task[of], path.basename(file.file)));
  if (task.kind === 'compare') {
    const out: FileChange[] = [];
    for (const pair of task.pairs) out.push(await compareFile(k, pair, open));
    return out;
  }
  const [{ before, after }] = task.pairs as [FilePair & { before: FileProof; after: FileProof }];
  const known = await compareFile(k, task.pairs[0]!, open);
  if (known.why) throw new Refused(422, `The reference cannot be laid over the other one: ${known.why}.`);
  const [a, b] = [await open(after, 'after'), await open(before, 'before')];
  const sink = await FileSink.create(task.to!);
  try {
    const { channels, sampleRate } = after.facts;
    // In the order of masks, as the files are laid over each other.
    const mask = after.layout ? layoutOf(after.layout).mask : 0;
    const writer = new AudioWriter(k, sink, { kind: 'wav', format: 132, channels, sampleRate, mask }, 16_384);
    await takeApart(k, { source: a, file: after }, { source: b, file: before }, (table, n) => writer.write(table, n));
    await writer.finish();
  } finally {
    await sink.close();
    await Promise.all([a.close(), b.close()]);
  }
  return null;
}
