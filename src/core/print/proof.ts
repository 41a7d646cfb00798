import type { ByteSource } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { measureFile, momentary, shortTerm, type FileFacts } from '@/core/measure';
import { bitsOf, referenceOf, stemsOf, type SessionDoc } from '@/core/session';
import { widthOf } from '@/core/speakers';
import { againstBrief, sumVerdict, type Finding, type SumVerdict } from './verdict';
import { sumCheck, type SumCheck } from './sumCheck';
import type { PrintedFile } from './run';

/** A file on disk as it was when the print ended. */
export interface SealedFile {
  file: string;
  sha256: string;
  bytes: number;
}

export interface FileProof {
  deliverable: string;
  /** Its name; with braces where it stands for one file a channel (see partNames). */
  file: string;
  /** What lies on disk under that name. */
  parts: SealedFile[];
  facts: Omit<FileFacts, 'hops'>;
  findings: Finding[];
}

/** The measured facts about a print. Every figure is read from the finished files. */
export interface Proof {
  made: string;
  files: FileProof[];
  sum: (SumCheck & SumVerdict) | null;
  /** LUFS of the reference every 100 ms, with the times (s) of the windows' ends. */
  loudness: { step: number; momentary: number[]; shortTerm: number[] } | null;
}

export interface ProofInput {
  printed: PrintedFile;
  name: string;
  source: ByteSource;
  /** Known after measuring, from the file as it stands. */
  seal: (facts: FileFacts) => Promise<SealedFile[]>;
}

const round = (values: Float64Array) =>
  Array.from(values, (v) => (Number.isFinite(v) ? Math.round(v * 100) / 100 : -120));

/**
 * Measures every printed file, lets `seal` finish it (loudness into the header, checksum), and adds the
 * stems up against the reference.
 */
export async function prove(
  k: Kernels,
  doc: SessionDoc,
  range: { start: number; end: number },
  inputs: readonly ProofInput[],
  made: string,
): Promise<Proof> {
  const reference = referenceOf(doc);
  const frames = range.end - range.start;
  let loudness: Proof['loudness'] = null;
  const files: FileProof[] = [];
  for (const { printed, name, source, seal } of inputs) {
    const d = printed.deliverable;
    const measured = await measureFile(k, source);
    const { hops, ...facts } = measured;
    const parts = await seal(measured);
    const isReference = d.bus === reference?.id;
    if (isReference && !loudness)
      loudness = { step: 0.1, momentary: round(momentary(hops)), shortTerm: round(shortTerm(hops)) };
    files.push({
      deliverable: d.id,
      file: name,
      parts,
      facts,
      findings: againstBrief(doc, measured, {
        deliverable: d,
        channels: widthOf(d.layout),
        frames,
        start: range.start,
        isReference,
        overs: printed.overs,
      }),
    });
  }
  return { made, files, loudness, sum: await proveSum(k, doc, inputs) };
}

async function proveSum(k: Kernels, doc: SessionDoc, inputs: readonly ProofInput[]): Promise<Proof['sum']> {
  const reference = referenceOf(doc);
  const stemIds = stemsOf(doc).map((b) => b.id);
  // One file of each bus, in the session's own form: copies in another layout or word length do not count twice.
  const full = inputs.filter(
    ({ printed: { deliverable: d } }) => d.layout === reference?.layout && bitsOf(doc, d) === doc.format.wordLength,
  );
  const of = (bus: string | undefined) => full.find((i) => i.printed.deliverable.bus === bus);
  const ref = of(reference?.id);
  const stems = stemIds.map(of).filter((i) => i !== undefined);
  if (!ref || stems.length === 0) return null;
  const check = await sumCheck(
    k,
    stems.map((s) => s.source),
    ref.source,
  );
  const overs = [ref, ...stems].reduce((n, i) => n + i.printed.overs, 0);
  return { ...check, ...sumVerdict(doc, check, overs) };
}
