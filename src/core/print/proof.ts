import type { ByteSource, Dithering } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { measureFile, momentary, shortTerm, type FileFacts } from '@/core/measure';
import {
  wordLengthOf,
  ditherOf,
  orderOf,
  rateOf,
  referenceOf,
  referencesOf,
  type Bus,
  type SessionDoc,
} from '@/core/session';
import { layoutIn, layoutOf, reordering, widthOf, type ChannelOrder, type LayoutId } from '@/core/speakers';
import { againstBrief, SILENT, sumVerdict, type Finding, type SumVerdict } from './verdict';
import { stemMembers } from './members';
import { proveLinked, type LinkedProof } from './linkedProof';
import type { PrintRange } from './ranges';
import { whatOf } from './what';
import { leadAt, leadInOf } from './leadIn';
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
  /** What a reader calls it; earlier releases did not say. */
  what?: string;
  /** Its name; with braces where it stands for one file a channel (see partNames). */
  file: string;
  /** What lies on disk under that name. */
  parts: SealedFile[];
  facts: Omit<FileFacts, 'hops'>;
  /** Speakers of its channels, and their order; earlier releases did not say. */
  layout?: LayoutId;
  order?: ChannelOrder;
  /** Where its channels are objects: what each is, and where it begins. */
  objects?: { name: string; azimuth: number; elevation: number }[];
  /** Noise before its rounding; earlier releases did not say. */
  dither?: Dithering;
  /** Which of the print's ranges it is of; absent where there is one alone. */
  range?: number;
  /** Its first frames that are a lead-in; its figures are those of the rest. */
  lead?: number;
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

/** What a reference sounds like as a whole. */
export interface SoundFigures {
  /** dBFS of third octaves, of all channels but the LFE. */
  spectrum: { frequency: number; level: number }[];
  /** Phase of left and right of each pair: over the whole, and the lowest of a tenth of a second. */
  correlations: { pair: [string, string]; value: number; lowest: number }[];
}

/** What is told of the files of one range together. */
export interface RangeFigures {
  sum: SumProof | null;
  /** The same of further references. */
  moreSums?: SumProof[];
  /** Seconds of all files that stand after the range: what had to decay. */
  tail?: number;
  /** dB by which all of them were brought to the brief's loudness. */
  gain?: number;
  /** LUFS of the reference every 100 ms, with the times (s) of the windows' ends. */
  loudness: { step: number; momentary: number[]; shortTerm: number[] } | null;
  sound?: SoundFigures;
}

/** The measured facts about a print. Every figure is read from the finished files. */
export interface Proof extends RangeFigures {
  made: string;
  files: FileProof[];
  /** What stood in the way and was passed by knowingly, in sentences. */
  passedBy?: string[];
  /** Seconds of lead-in that every file begins with. */
  lead?: number;
  /** Where several were printed at once: what is told of each; nothing is told of them together then. */
  ranges?: ({ name: string; start: number; end: number } & RangeFigures)[];
}

/** One range of a print with its files. */
export interface ProvedRange extends RangeFigures {
  name: string;
  start: number;
  end: number;
  files: FileProof[];
}

/** The ranges of a print, one at least. `range`: that of the print, which one alone has. */
export function rangesOf(proof: Proof, range: { start: number; end: number }): ProvedRange[] {
  const { ranges, made: _made, passedBy: _passedBy, lead: _lead, ...alone } = proof;
  if (!ranges) return [{ name: '', ...range, ...alone }];
  return ranges.map((r, i) => ({ ...r, files: proof.files.filter((f) => f.range === i) }));
}

// A stem has nothing to say in every cue: silence in one of several ranges is worth a note where it sounds in another.
function withPauses(file: FileProof, proofs: readonly { files: FileProof[] }[]): FileProof {
  if (!file.facts.silent) return file;
  const heard = proofs.some(({ files }) => files.some((f) => f.deliverable === file.deliverable && !f.facts.silent));
  const eased = (f: Finding): Finding => (f.text === SILENT ? { ...f, grade: 'note' } : f);
  return heard ? { ...file, findings: file.findings.map(eased) } : file;
}

/** The proof of all ranges of a print; of one alone it is that of the print. */
export function rangesProof(
  ranges: readonly PrintRange[],
  proofs: readonly (RangeFigures & { files: FileProof[] })[],
  made: string,
): Proof {
  if (proofs.length === 1 && ranges[0]!.name === '') return { made, ...proofs[0]! };
  return {
    made,
    files: proofs.flatMap(({ files }, range) => files.map((f) => ({ ...withPauses(f, proofs), range }))),
    sum: null,
    loudness: null,
    ranges: proofs.map(({ files: _, ...figures }, i) => ({ ...ranges[i]!, ...figures })),
  };
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

/** How a range is proven. */
export interface ProofOptions {
  /** What of the timeline the files hold behind their lead-in, the tail with it. */
  range: { start: number; end: number };
  signal?: AbortSignal;
}

/**
 * Measures every printed file, lets `seal` finish it (loudness into the header, checksum), and adds the
 * stems up against the reference. Throws the signal's reason when it is aborted.
 */
export async function prove(
  k: Kernels,
  doc: SessionDoc,
  inputs: readonly ProofInput[],
  { range, signal }: ProofOptions,
): Promise<RangeFigures & { files: FileProof[] }> {
  const reference = referenceOf(doc);
  const { left } = stemMembers(doc);
  const lead = leadInOf(doc)?.frames ?? 0;
  let loudness: RangeFigures['loudness'] = null;
  let sound: SoundFigures | undefined;
  const files: FileProof[] = [];
  for (const { printed, name, source, seal, lacking } of inputs) {
    const d = printed.deliverable;
    const rate = rateOf(doc, d);
    const speakers = layoutIn(layoutOf(d.layout), orderOf(doc, d));
    const isReference = d.bus === reference?.id;
    const first = isReference && !loudness;
    const from = leadAt(doc, rate);
    const measured = await measureFile(k, source, {
      ...{ as: speakers, from, signal },
      ...(first ? { levels: true, spectrum: true } : {}),
    });
    const { hops, levels: _levels, correlations = [], spectrum, ...facts } = measured;
    const parts = await seal(measured);
    if (first) {
      loudness = { step: 0.1, momentary: round(momentary(hops)), shortTerm: round(shortTerm(hops)) };
      const named = (c: number) => speakers.speakers[c]!.label;
      sound = {
        spectrum: spectrum ?? [],
        correlations: correlations.map(({ pair, value, lowest }) => ({
          ...{ pair: [named(pair[0]), named(pair[1])] as [string, string], value, lowest },
        })),
      };
    }
    files.push({
      deliverable: d.id,
      what: whatOf(doc, d),
      file: name,
      parts,
      facts,
      layout: d.layout,
      order: orderOf(doc, d),
      dither: ditherOf(doc, d),
      ...(from > 0 ? { lead: from } : {}),
      findings: againstBrief(doc, measured, {
        deliverable: d,
        channels: widthOf(d.layout),
        // As a conversion makes them: as long as what it was given, to the sample.
        frames: Math.ceil(((range.end - range.start + lead) * rate) / doc.format.sampleRate),
        start: range.start - lead,
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
  const sum = reference ? await proveSum(k, doc, reference, inputs, signal) : null;
  const moreSums: SumProof[] = [];
  for (const other of referencesOf(doc).slice(1)) {
    const more = await proveSum(k, doc, other, inputs, signal);
    if (more) moreSums.push(more);
  }
  return {
    ...{ files, loudness, sum },
    ...(sound ? { sound } : {}),
    ...(moreSums.length ? { moreSums } : {}),
  };
}

async function proveSum(
  k: Kernels,
  doc: SessionDoc,
  reference: Bus,
  inputs: readonly ProofInput[],
  signal?: AbortSignal,
): Promise<SumProof | null> {
  // One file of each bus as wide as the reference, in the session's own bits where there is one: copies count once.
  const of = (bus: Bus, rate?: number) => {
    const all = inputs.filter(
      ({ printed: { deliverable: d } }) =>
        d.bus === bus.id && d.layout === reference.layout && (rate === undefined || rateOf(doc, d) === rate),
    );
    return (
      all.find(
        ({ printed: { deliverable: d } }) =>
          wordLengthOf(doc, d) === doc.format.wordLength && rateOf(doc, d) === doc.format.sampleRate,
      ) ?? all[0]
    );
  };
  const ref = of(reference);
  const rate = ref && rateOf(doc, ref.printed.deliverable);
  const { counted, left } = stemMembers(doc, reference);
  const stems = counted.flatMap((bus) => {
    const file = of(bus, rate);
    return file ? [{ bus, file }] : [];
  });
  if (!ref || rate === undefined || stems.length === 0) return null;
  const missing = counted
    .filter((bus) => !stems.some((s) => s.bus === bus))
    .map((bus) => ({ name: bus.name, why: whyMissing(bus) }));
  function whyMissing(bus: Bus): string {
    const own = inputs.filter((i) => i.printed.deliverable.bus === bus.id);
    if (own.length === 0) return 'it is not printed';
    return own.some((i) => i.printed.deliverable.layout === reference.layout)
      ? `it is not printed at ${rate! / 1000} kHz`
      : `it is printed in another width than ${layoutOf(reference.layout).name}`;
  }
  const channelsOf = ({ source, printed: { deliverable: d } }: ProofInput) => ({
    source,
    channels: reordering(layoutOf(reference.layout), orderOf(doc, d), 'wav'),
    dither: ditherOf(doc, d),
    lead: leadAt(doc, rate),
  });
  const check = await sumCheck(
    k,
    stems.map((s) => channelsOf(s.file)),
    channelsOf(ref),
    { signal },
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
        { signal },
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
