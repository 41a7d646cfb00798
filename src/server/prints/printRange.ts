import { link, open, rename, stat, unlink, type FileHandle } from 'node:fs/promises';
import path from 'node:path';
import { reachedFrom, sounds } from '@/core/paths';
import type { Kernels } from '@/core/kernels';
import { measureFile } from '@/core/measure';
import {
  finishFile,
  leadInOf,
  plainForm,
  printName,
  prove,
  sessionFileHeader,
  sessionFileTrailer,
  tailEnd,
  whatOf,
  type FileProof,
  type NewFile,
  type PrintedFile,
  type PrintRange,
  type ProofInput,
  type RangeFigures,
  type SealedFile,
} from '@/core/print';
import { bytesPerSample, DATA_OFFSET, formatOfWord } from '@/core/files';
import {
  bitsOf,
  ditherOf,
  isAdm,
  limitsOf,
  orderOf,
  playedOf,
  rateOf,
  referenceOf,
  type Deliverable,
  type SessionDoc,
} from '@/core/session';
import { layoutIn, layoutOf, widthOf } from '@/core/speakers';
import { diskPaths, layOut, openFile, removeFile, writeAll } from '../media';
import { printInParts, sinkOf } from './printParts';
import type { PrintJob } from './job';
import { sha256 } from './sha256';

/** A file of a range on its way: under a hidden name until it is sealed. */
interface Making {
  deliverable: Deliverable;
  /** Its name, and the path that it gets in the end. */
  name: string;
  final: string;
  /** Where it is printed to now. */
  file: string;
  handle: FileHandle;
  printed: PrintedFile;
}

/** What a range of a job is printed with. */
export interface RangeJob extends PrintJob {
  range: PrintRange;
  /** Every path that is made is told, so that it can be taken away again. */
  onMade: (file: string) => void;
}

export type RangeProof = RangeFigures & { files: FileProof[] };

const sealedFile = async (file: string): Promise<SealedFile> => ({
  file: path.basename(file),
  sha256: await sha256(file),
  bytes: (await stat(file)).size,
});

/** Whether a file is made of what was printed, after the mix. */
const isMadeAfter = (doc: SessionDoc, d: Deliverable): boolean =>
  doc.printing?.toTarget === true || rateOf(doc, d) !== doc.format.sampleRate;

/** The session as the mix is printed: what is made after it stays in floating point until then. */
const mixed = (doc: SessionDoc): SessionDoc => ({
  ...doc,
  deliverables: doc.deliverables.map((d) => (isMadeAfter(doc, d) ? { ...d, wordLength: 32 } : d)),
});

/**
 * Prints all files of one range in one pass, ends them together, makes of them what is made after the mix, measures the finished
 * files and writes the header, the loudness fields included, and gives them their names.
 */
export async function printRange(
  k: Kernels,
  doc: SessionDoc,
  job: RangeJob,
  onProgress: (share: number) => void,
  signal?: AbortSignal,
): Promise<RangeProof> {
  const { range, out, onMade } = job;
  // Sound is printed into interleaved WAV; where the session asks for another form, that is made from it at the end.
  const plain = plainForm(doc);
  const hidden = (file: string) => path.join(/*turbopackIgnore: true*/ out, `.${path.basename(file)}`);
  const making: Making[] = [];
  const lead = leadInOf(doc);
  const behind = lead?.frames ?? 0;
  const frames = range.end - range.start;
  const start = range.start - behind;
  try {
    for (const [i, deliverable] of doc.deliverables.entries()) {
      const name = printName(doc, deliverable, { version: job.version, range, made: job.made });
      const final = path.join(out, name);
      const file = plain ? hidden(final) : path.join(/*turbopackIgnore: true*/ out, `.print-${i + 1}.wav`);
      const handle = await open(file, 'wx');
      onMade(file);
      making.push({ deliverable, name, final, file, handle, printed: { deliverable, frames: 0, overs: 0 } });
    }
    const { tail } = doc.settings;
    const printed = await printInParts(
      k,
      {
        ...{ doc: mixed(doc), media: job.media, range, leadIn: lead },
        tail: tail ? Math.round(tail.seconds * doc.format.sampleRate) : 0,
        files: Object.fromEntries(making.map((m) => [m.deliverable.id, m.file])),
        threads: job.threads ?? 1,
        lacking: Object.keys(job.lacking ?? {}),
      },
      (share) => onProgress(share / 2),
      signal,
    );
    making.forEach((m, i) => (m.printed = { ...printed[i]!, deliverable: m.deliverable }));
    const kept = await endTogether(k, mixed(doc), making, frames + behind, signal);
    const gain = await gainToTarget(k, doc, making, { start, behind }, signal);
    for (const m of making)
      if (isMadeAfter(doc, m.deliverable)) await makeAfter(k, doc, m, { start, behind, gain, onMade }, signal);
    let sealed = 0;
    const inputs: (ProofInput & { close: () => Promise<void> })[] = [];
    try {
      for (const m of making) {
        const d = m.deliverable;
        const write = (measured?: Parameters<ProofInput['seal']>[0]) =>
          writeAll(m.handle, headerOf(doc, d, { start, frames: m.printed.frames, measured, made: job.made }), 0);
        await write();
        await behindSamples(doc, m, { start, frames: m.printed.frames, made: job.made });
        const work = hidden(m.final);
        if (!plain) {
          signal?.throwIfAborted();
          await layOut(k, m.file, work);
          onMade(work);
          await removeFile(m.file);
        }
        const source = await openFile(work);
        inputs.push({
          printed: m.printed,
          name: m.name,
          source,
          seal: async (facts) => {
            signal?.throwIfAborted();
            // Loudness is that of the whole: a file of one channel does not carry it, nor has an AIFF a place for it.
            if (plain) {
              await write(facts);
              await m.handle.sync();
            }
            await nameSealed(diskPaths(work), diskPaths(m.final));
            onMade(m.final);
            onProgress(0.5 + ++sealed / making.length / 2);
            return Promise.all(diskPaths(m.final).map(sealedFile));
          },
          lacking: lackingIn(doc, d, job.lacking ?? {}),
          close: async () => void (await source.close()),
        });
      }
      const whole = { start: range.start, end: start + kept };
      const proof = await prove(k, doc, inputs, { range: whole, signal });
      const rest = kept - behind - frames;
      return {
        ...proof,
        ...(rest > 0 ? { tail: rest / doc.format.sampleRate } : {}),
        ...(gain === 0 ? {} : { gain }),
      };
    } finally {
      await Promise.all(inputs.map((i) => i.close()));
    }
  } finally {
    await Promise.all(making.map((m) => m.handle.close()));
  }
}

/**
 * Ends all files where the last of them has decayed, or where the tail ends that was typed: all are equally long. Gives
 * their frames.
 */
async function endTogether(
  k: Kernels,
  doc: SessionDoc,
  making: readonly Making[],
  frames: number,
  signal?: AbortSignal,
): Promise<number> {
  const { tail } = doc.settings;
  let end = frames;
  for (const m of making) {
    const own = m.printed.frames;
    if (tail?.until !== 'decayed') {
      end = Math.max(end, own);
      continue;
    }
    signal?.throwIfAborted();
    const source = await readable(doc, m);
    end = Math.max(end, await tailEnd(k, source, frames).finally(() => source.close()));
  }
  for (const m of making) {
    m.printed.frames = Math.min(m.printed.frames, end);
    const { id, layout } = m.deliverable;
    const bits = bitsOf(
      doc,
      doc.deliverables.find((d) => d.id === id)!,
    );
    const bytes = m.printed.frames * bytesPerSample(formatOfWord(bits)) * widthOf(layout);
    // A chunk of a WAV takes an even number of bytes.
    await m.handle.truncate(DATA_OFFSET + bytes + (bytes & 1));
  }
  return end;
}

/** A file as it was printed, with a header that says how much of it there is. */
async function readable(doc: SessionDoc, m: Making) {
  const mix = doc.deliverables.find((d) => d.id === m.deliverable.id)!;
  const { sampleRate: _, adm: _adm, ...atSessionRate } = mix;
  await writeAll(m.handle, headerOf(doc, atSessionRate, { start: 0, frames: m.printed.frames, made: '' }), 0);
  return openFile(m.file);
}

/** dB that bring the first reference to the loudness that is asked of it; 0 where none is asked, and where it is silent. */
async function gainToTarget(
  k: Kernels,
  doc: SessionDoc,
  making: readonly Making[],
  { behind }: { start: number; behind: number },
  signal?: AbortSignal,
): Promise<number> {
  if (!doc.printing?.toTarget) return 0;
  const reference = referenceOf(doc);
  const m = making.find((x) => x.deliverable.bus === reference?.id && x.deliverable.layout === reference.layout);
  if (!m || !reference)
    throw new Error('No file of the reference is printed, so its loudness is not known: print it too, or no gain');
  const { target } = limitsOf(doc, m.deliverable);
  if (target === null) throw new Error(`no loudness is asked of ${reference.name}: there is none to bring it to`);
  const source = await readable(mixed(doc), m);
  const speakers = layoutIn(layoutOf(m.deliverable.layout), orderOf(doc, m.deliverable));
  const { integrated } = await measureFile(k, source, { as: speakers, from: behind, signal }).finally(() =>
    source.close(),
  );
  return Number.isFinite(integrated) ? target - integrated : 0;
}

/** Makes of a file in floating point, as the mix gave it, the one that is asked for. */
async function makeAfter(
  k: Kernels,
  doc: SessionDoc,
  m: Making,
  { behind, gain, onMade }: { start: number; behind: number; gain: number; onMade: (file: string) => void },
  signal?: AbortSignal,
): Promise<void> {
  const d = m.deliverable;
  const source = await readable(mixed(doc), m);
  const file = `${m.file}.after`;
  const handle = await open(file, 'wx');
  onMade(file);
  try {
    const to = {
      ...{ format: formatOfWord(bitsOf(doc, d)), dither: ditherOf(doc, d), sampleRate: rateOf(doc, d) },
      ...{ gain: k.gain(gain), from: behind },
    };
    const done = await finishFile(k, source, sinkOf(handle), to, signal);
    m.printed = { ...m.printed, ...done };
    const bytes = done.frames * bytesPerSample(to.format) * widthOf(d.layout);
    await handle.truncate(DATA_OFFSET + bytes + (bytes & 1));
  } catch (error) {
    await handle.close();
    throw error;
  } finally {
    await source.close();
  }
  await m.handle.close();
  await rename(file, m.file);
  m.handle = handle;
}

// What a BW64 says of its channels stands behind them.
async function behindSamples(doc: SessionDoc, m: Making, of: HeaderFacts): Promise<void> {
  const d = m.deliverable;
  const trailer = sessionFileTrailer(doc, fileOf(doc, d, of));
  if (!trailer) return;
  const bytes = of.frames * bytesPerSample(formatOfWord(bitsOf(doc, d))) * widthOf(d.layout);
  await writeAll(m.handle, trailer, DATA_OFFSET + bytes);
}

// A name that is there is never taken: a link fails where a rename would write over.
async function nameSealed(from: readonly string[], to: readonly string[]): Promise<void> {
  for (const [i, file] of from.entries()) {
    await link(file, to[i]!);
    await unlink(file);
  }
}

interface HeaderFacts {
  start: number;
  frames: number;
  measured?: Parameters<ProofInput['seal']>[0];
  made: string;
}

const headerOf = (doc: SessionDoc, d: Deliverable, of: HeaderFacts): Uint8Array =>
  sessionFileHeader(doc, fileOf(doc, d, of));

function fileOf(doc: SessionDoc, d: Deliverable, of: HeaderFacts): NewFile {
  return {
    description: `${doc.name}, ${whatOf(doc, d)}`,
    layout: d.layout,
    order: orderOf(doc, d),
    wordLength: d.wordLength,
    sampleRate: rateOf(doc, d),
    adm: isAdm(doc, d),
    ...of,
  };
}

/** What is missing in a file, because its sources lack it. */
function lackingIn(doc: SessionDoc, d: Deliverable, lacking: Readonly<Record<string, string>>): string[] {
  return Object.entries(lacking).flatMap(([media, why]) =>
    playedOf(doc).tracks.some(
      (t) => t.clips.some((c) => c.media === media) && (t.id === d.bus || reachedFrom(doc, t.id, sounds).has(d.bus)),
    )
      ? [why]
      : [],
  );
}
