import { access, mkdir } from 'node:fs/promises';
import path from 'node:path';
import { usesOf } from '@/core/checks';
import type { Kernels } from '@/core/kernels';
import { hullOf, leadInOf, printedDoc, printName, rangesProof, type Proof } from '@/core/print';
import type { SessionDoc } from '@/core/session';
import { diskPaths, removeFile, stampOf } from '../media';
import type { PrintJob } from './job';
import { printRange, type RangeProof } from './printRange';

/** Share of the whole, and which range it is at (from 0). */
export interface PrintProgress {
  share: number;
  range: number;
}

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

/** Throws where two files of the print would have one name, or one is there. */
async function namesFree(doc: SessionDoc, { ranges, version, made, out }: PrintJob): Promise<void> {
  const seen = new Set<string>();
  for (const range of ranges)
    for (const d of doc.deliverables) {
      const name = printName(doc, d, { version, range, made });
      if (seen.has(name.toLowerCase()))
        throw new Error(
          `Two files of this print would be called ${name}; nothing was printed. Change the name pattern${ranges.length > 1 ? ' ({range} tells the ranges apart)' : ''} or the letters of one in the brief.`,
        );
      seen.add(name.toLowerCase());
      await free(diskPaths(path.join(out, name)));
    }
}

// A range is printed by several threads only where that is worth their start.
const WORTH_THREADS = 20;

/**
 * Prints all files of each range into a folder, every range in one pass. Existing files are never overwritten; what was begun
 * is removed on failure, the ranges that were finished with it.
 */
export async function runPrint(
  k: Kernels,
  job: PrintJob,
  onProgress: (progress: PrintProgress) => void,
  signal?: AbortSignal,
): Promise<Proof> {
  const { ranges } = job;
  const doc = printedDoc(job.doc);
  if (ranges.length === 0) throw new Error('There is no range to print; nothing was printed.');
  await mkdir(job.out, { recursive: true });
  await namesFree(doc, job);
  const uses = usesOf(doc, hullOf(ranges));
  const used = Object.keys(job.media).filter((id) => uses.has(id) && !job.lacking?.[id]);
  const made = new Set<string>();
  const all = ranges.reduce((sum, r) => sum + r.end - r.start, 0);
  try {
    const before = await stamps(job.media, used);
    const proofs: RangeProof[] = [];
    let done = 0;
    for (const [i, range] of ranges.entries()) {
      signal?.throwIfAborted();
      const own = range.end - range.start;
      const threads = own / doc.format.sampleRate < WORTH_THREADS && ranges.length > 1 ? 1 : (job.threads ?? 1);
      const proof = await printRange(
        k,
        doc,
        { ...job, range, threads, onMade: (file) => made.add(file) },
        (share) => onProgress({ share: (done + own * share) / all, range: i }),
        signal,
      );
      proofs.push(proof);
      done += own;
    }
    const after = await stamps(job.media, used);
    const altered = used.find((id) => before.get(id) !== after.get(id));
    if (altered) throw new Error(`${doc.media[altered]?.name ?? altered} was changed while it was read; print again`);
    const lead = leadInOf(doc);
    return {
      ...rangesProof(ranges, proofs, job.made),
      ...(lead ? { lead: lead.frames / doc.format.sampleRate } : {}),
      ...(job.passedBy?.length ? { passedBy: [...job.passedBy] } : {}),
    };
  } catch (error) {
    await Promise.all([...made].map(removeFile));
    throw error;
  }
}

async function stamps(media: Record<string, string>, ids: readonly string[]): Promise<Map<string, string>> {
  // One that cannot be looked at is told when it is read, with its place.
  const all = ids.map(async (id) => [id, await stampOf(media[id]!).catch(() => 'gone')] as const);
  return new Map(await Promise.all(all));
}
