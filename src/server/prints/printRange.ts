import { open, rename } from 'node:fs/promises';
import path from 'node:path';
import { reachedFrom, sounds } from '@/core/paths';
import type { Kernels } from '@/core/kernels';
import { measureFile } from '@/core/measure';
import {
  finishFile,
  isObjects,
  leadInOf,
  plainForm,
  printName,
  prove,
  tailEnd,
  type FileProof,
  type PrintRange,
  type ProofInput,
  type RangeFigures,
} from '@/core/print';
import { bytesPerSample, DATA_OFFSET, formatOfWord } from '@/core/files';
import {
  wordLengthOf,
  ditherOf,
  limitsOf,
  orderOf,
  playedOf,
  rateOf,
  referenceOf,
  type Deliverable,
  type SessionDoc,
  inFormOf,
} from '@/core/session';
import { layoutIn, layoutOf, widthOf } from '@/core/speakers';
import { diskPaths, layOut, openFile, removeFile, writeAll } from '../media';
import { printInParts, sinkOf } from './printParts';
import type { PrintJob } from './job';
import { behindSamples, headerOf, isMadeAfter, mixed, nameSealed, readable, sealedFile, type Making } from './making';
import { objectParts, sealObjects, type ObjectFile } from './objectFile';

/** What a range of a job is printed with. */
export interface RangeJob extends PrintJob {
  range: PrintRange;
  /** Every path that is made is told, so that it can be taken away again. */
  onMade: (file: string) => void;
}

export type RangeProof = RangeFigures & { files: FileProof[] };

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
  const isPlain = (d: Deliverable) => plainForm(inFormOf(doc, d));
  const hidden = (file: string) => path.join(/*turbopackIgnore: true*/ out, `.${path.basename(file)}`);
  const making: Making[] = [];
  const pieces: Making[] = [];
  const objects: ObjectFile[] = [];
  const lead = leadInOf(doc);
  const behind = lead?.frames ?? 0;
  const frames = range.end - range.start;
  const start = range.start - behind;
  const take = async (deliverable: Deliverable, name: string, file: string): Promise<Making> => {
    const handle = await open(file, 'wx');
    onMade(file);
    const printed = { deliverable, frames: 0, overs: 0 };
    return { deliverable, name, final: path.join(out, name), file, handle, printed };
  };
  const scratch = (name: string) => path.join(/*turbopackIgnore: true*/ out, `.${name}.wav`);
  try {
    for (const [i, deliverable] of doc.deliverables.entries()) {
      const name = printName(doc, deliverable, { version: job.version, range, made: job.made });
      const final = path.join(out, name);
      if (!isObjects(doc, deliverable)) {
        making.push(await take(deliverable, name, isPlain(deliverable) ? hidden(final) : scratch(`print-${i + 1}`)));
        continue;
      }
      const { tracks, parts } = objectParts(doc, deliverable);
      objects.push({ deliverable, tracks, name, final, file: hidden(final) });
      for (const [n, part] of parts.entries()) pieces.push(await take(part, '', scratch(`object-${i + 1}-${n + 1}`)));
    }
    const all = [...making, ...pieces];
    const mix = mixed({ ...doc, deliverables: all.map((m) => m.deliverable) });
    const { tail } = doc.settings;
    const printed = await printInParts(
      k,
      {
        ...{ doc: mix, media: job.media, range, leadIn: lead },
        tail: tail ? Math.round(tail.seconds * doc.format.sampleRate) : 0,
        files: Object.fromEntries(all.map((m) => [m.deliverable.id, m.file])),
        threads: job.threads ?? 1,
        lacking: Object.keys(job.lacking ?? {}),
      },
      (share) => onProgress(share / 2),
      signal,
    );
    all.forEach((m, i) => (m.printed = { ...printed[i]!, deliverable: m.deliverable }));
    const kept = await endTogether(k, mix, all, frames + behind, signal);
    const gain = await gainToTarget(k, doc, making, behind, signal);
    for (const m of making)
      if (isMadeAfter(doc, m.deliverable)) await makeAfter(k, doc, m, { behind, gain, onMade }, signal);
    let sealed = 0;
    const inputs: (ProofInput & { close: () => Promise<void> })[] = [];
    try {
      for (const m of making) {
        const d = m.deliverable;
        const plain = isPlain(d);
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
      const placed: FileProof[] = [];
      for (const o of objects) {
        const own = pieces.filter((p) => p.deliverable.id.startsWith(`${o.deliverable.id}/`));
        const lacking = lackingIn(doc, o.deliverable, job.lacking ?? {});
        const { made } = job;
        placed.push(await sealObjects(k, doc, o, own, { range: whole, behind, gain, made, lacking, onMade, signal }));
      }
      for (const p of pieces) await removeFile(p.file);
      return {
        ...proof,
        files: inBriefOrder(doc, [...proof.files, ...placed]),
        ...(rest > 0 ? { tail: rest / doc.format.sampleRate } : {}),
        ...(gain === 0 ? {} : { gain }),
      };
    } finally {
      await Promise.all(inputs.map((i) => i.close()));
    }
  } finally {
    await Promise.all([...making, ...pieces].map((m) => m.handle.close()));
  }
}

const inBriefOrder = (doc: SessionDoc, files: readonly FileProof[]): FileProof[] =>
  doc.deliverables.flatMap((d) => files.filter((f) => f.deliverable === d.id));

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
    const bits = wordLengthOf(
      doc,
      doc.deliverables.find((d) => d.id === id)!,
    );
    const bytes = m.printed.frames * bytesPerSample(formatOfWord(bits)) * widthOf(layout);
    // A chunk of a WAV takes an even number of bytes.
    await m.handle.truncate(DATA_OFFSET + bytes + (bytes & 1));
  }
  return end;
}

/** dB that bring the first reference to the loudness that is asked of it; 0 where none is asked, and where it is silent. */
async function gainToTarget(
  k: Kernels,
  doc: SessionDoc,
  making: readonly Making[],
  behind: number,
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
  { behind, gain, onMade }: { behind: number; gain: number; onMade: (file: string) => void },
  signal?: AbortSignal,
): Promise<void> {
  const d = m.deliverable;
  const source = await readable(mixed(doc), m);
  const file = `${m.file}.after`;
  const handle = await open(file, 'wx');
  onMade(file);
  try {
    const to = {
      ...{ format: formatOfWord(wordLengthOf(doc, d)), dither: ditherOf(doc, d), sampleRate: rateOf(doc, d) },
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
