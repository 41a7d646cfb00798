import type { ByteSource } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { measureFile, momentary, shortTerm, type FileFacts } from '@/core/measure';
import { bitsOf, orderOf, referenceOf, referencesOf, type Bus, type SessionDoc } from '@/core/session';
import { layoutIn, layoutOf, reordering, widthOf, type ChannelOrder, type LayoutId } from '@/core/speakers';
import { againstBrief, sumVerdict, type Finding, type SumVerdict } from './verdict';
import { stemMembers } from './members';
import { proveLinked, type LinkedProof } from './linkedProof';
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
  /** Speakers of its channels, and their order; earlier releases did not say. */
  layout?: LayoutId;
  order?: ChannelOrder;
  findings: Finding[];
}

/** How the stems of a reference stand to it. */
export interface SumProof extends SumCheck, SumVerdict {
  /** Its name; earlier releases knew one only. */
  reference?: string;
  /** Files that were added up, and the one that they were compared with. */
  files?: { reference: string; stems: string[] };
  /** Where its stems are limited together: what their sum comes to. */
  linked?: LinkedProof;
}

/** The measured facts about a print. Every figure is read from the finished files. */
export interface Proof {
  made: string;
  files: FileProof[];
  sum: SumProof | null;
  /** The same of further references. */
  moreSums?: SumProof[];
  /** Seconds of all files that stand after the range: what had to decay. */
  tail?: number;
  /** What stood in the way and was passed by knowingly, in sentences. */
  passedBy?: string[];
  /** LUFS of the reference every 100 ms, with the times (s) of the windows' ends. */
  loudness: { step: number; momentary: number[]; shortTerm: number[] } | null;
}

export interface ProofInput {
  printed: PrintedFile;
  name: string;
  source: ByteSource;
  /** Known after measuring, from the file as it stands. */
  seal: (facts: FileFacts) => Promise<SealedFile[]>;
  /** What is known to be missing in it, in sentences. */
  lacking?: readonly string[];
}

const round = (values: Float64Array) => Array.from(values, (v) => (Number.isFinite(v) ? Math.round(v * 100) / 100 : v));

/** Figures of a file that may be without end: silence has a level of -Infinity. */
const LEVELS = ['integrated', 'maxMomentary', 'maxShortTerm', 'truePeak', 'samplePeak'] as const;

/** What earlier releases did not tell of a sum. */
const NO_PARTS = { counted: [] as string[], left: [] as { name: string; why: string }[], place: null };

/** A proof as an earlier release stored it: what was minus infinity had become nothing. */
export function withLostFigures(proof: Proof): Proof {
  const level = (v: number | null): number => v ?? -Infinity;
  return {
    ...proof,
    files: proof.files.map((f) => ({
      ...f,
      facts: { ...f.facts, ...Object.fromEntries(LEVELS.map((l) => [l, level(f.facts[l])])) },
    })),
    sum: proof.sum && { ...NO_PARTS, ...proof.sum, difference: level(proof.sum.difference) },
  };
}

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
  const { left } = stemMembers(doc);
  const frames = range.end - range.start;
  let loudness: Proof['loudness'] = null;
  const files: FileProof[] = [];
  for (const { printed, name, source, seal, lacking } of inputs) {
    const d = printed.deliverable;
    const measured = await measureFile(k, source, { as: layoutIn(layoutOf(d.layout), orderOf(doc, d)) });
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
      layout: d.layout,
      order: orderOf(doc, d),
      findings: againstBrief(doc, measured, {
        deliverable: d,
        channels: widthOf(d.layout),
        frames,
        start: range.start,
        isReference,
        overs: printed.overs,
        lacking: [
          ...(lacking ?? []),
          // Whoever adds all files up hears it twice.
          ...left.filter((l) => l.bus.id === d.bus).map((l) => `not a part of the sum: ${l.why}`),
        ],
      }),
    });
  }
  const sum = reference ? await proveSum(k, doc, reference, inputs) : null;
  const moreSums: SumProof[] = [];
  for (const other of referencesOf(doc).slice(1)) {
    const more = await proveSum(k, doc, other, inputs);
    if (more) moreSums.push(more);
  }
  return { made, files, loudness, sum, ...(moreSums.length ? { moreSums } : {}) };
}

async function proveSum(
  k: Kernels,
  doc: SessionDoc,
  reference: Bus,
  inputs: readonly ProofInput[],
): Promise<SumProof | null> {
  // One file of each bus as wide as the reference, in the session's own bits where there is one: copies count once.
  const of = (bus: Bus) => {
    const all = inputs.filter(({ printed: { deliverable: d } }) => d.bus === bus.id && d.layout === reference.layout);
    return all.find((i) => bitsOf(doc, i.printed.deliverable) === doc.format.wordLength) ?? all[0];
  };
  const ref = of(reference);
  const { counted, left } = stemMembers(doc, reference);
  const stems = counted.flatMap((bus) => {
    const file = of(bus);
    return file ? [{ bus, file }] : [];
  });
  if (!ref || stems.length === 0) return null;
  const missing = counted
    .filter((bus) => !stems.some((s) => s.bus === bus))
    .map((bus) => ({
      name: bus.name,
      why: inputs.some((i) => i.printed.deliverable.bus === bus.id)
        ? `it is printed in another width than ${layoutOf(reference.layout).name}`
        : 'it is not printed',
    }));
  const channelsOf = (file: ProofInput) => ({
    source: file.source,
    channels: reordering(layoutOf(reference.layout), orderOf(doc, file.printed.deliverable), 'wav'),
  });
  const check = await sumCheck(
    k,
    stems.map((s) => channelsOf(s.file)),
    channelsOf(ref),
  );
  const overs = [ref, ...stems.map((s) => s.file)].reduce((n, i) => n + i.printed.overs, 0);
  const parts = {
    counted: stems.map((s) => s.bus.name),
    left: [...left.map(({ bus, why }) => ({ name: bus.name, why })), ...missing],
  };
  const linked = reference.linked?.on
    ? await proveLinked(
        k,
        reference.linked,
        stems.map((s) => ({ name: s.bus.name, ...channelsOf(s.file) })),
      )
    : undefined;
  return {
    ...check,
    ...sumVerdict(doc, reference, check, overs, parts),
    reference: reference.name,
    files: { reference: ref.name, stems: stems.map((s) => s.file.name) },
    ...(linked ? { linked } : {}),
  };
}
