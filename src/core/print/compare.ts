import { FrameCodec, parseAudio, readFrames, type ByteSource } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { isLayout, layoutOf, reordering } from '@/core/speakers';
import { rangesOf, type FileProof, type Proof } from './proof';
import { sumCheck } from './sumCheck';

/** A print whose files are compared with those of another. */
export interface Compared {
  proof: Proof;
  range: { start: number; end: number };
}

/** A file of two prints; one of them may have none. */
export interface FilePair {
  what: string;
  /** Name of the range; empty where there is one alone. */
  range: string;
  before: FileProof | null;
  after: FileProof | null;
}

/** What changed of a file, figure by figure, where it can be compared. */
export interface FileChange extends FilePair {
  /** Peak of what is left where one is taken from the other, dBFS; -Infinity: equal to the bit; null: not compared. */
  difference: number | null;
  /** Where it is largest: seconds into the range, and the speaker. */
  place: { seconds: number; speaker: string } | null;
  /** Why it was not compared. */
  why: string | null;
}

interface Listed {
  range: string;
  file: FileProof;
}

const listed = ({ proof, range }: Compared): Listed[] =>
  rangesOf(proof, range).flatMap((r) => r.files.map((file) => ({ range: r.name, file })));

const same = (a: Listed, b: Listed): boolean => a.range === b.range && a.file.deliverable === b.file.deliverable;

/** The files of two prints side by side: those of the same range and the same place in the brief. */
export function filePairs(before: Compared, after: Compared): FilePair[] {
  const [then, now] = [listed(before), listed(after)];
  return [
    ...now.map((n) => ({
      ...{ what: n.file.what ?? n.file.file, range: n.range, after: n.file },
      before: then.find((t) => same(t, n))?.file ?? null,
    })),
    ...then
      .filter((t) => !now.some((n) => same(t, n)))
      .map((t) => ({ what: t.file.what ?? t.file.file, range: t.range, before: t.file, after: null })),
  ];
}

/** Why two files cannot be laid over each other, sample by sample; null where they can. */
function unlike({ before, after }: FilePair): string | null {
  if (!before) return 'it is new';
  if (!after) return 'it is not there any more';
  const [a, b] = [before.facts, after.facts];
  if (before.layout !== after.layout || a.channels !== b.channels) return 'it has another layout';
  if (a.sampleRate !== b.sampleRate) return `it is at ${b.sampleRate / 1000} kHz and was at ${a.sampleRate / 1000}`;
  if (a.frames - (before.lead ?? 0) !== b.frames - (after.lead ?? 0)) return 'it has another length';
  return null;
}

const channelsOf = (f: FileProof): readonly number[] | undefined =>
  f.layout && isLayout(f.layout) ? reordering(layoutOf(f.layout), f.order ?? 'wav', 'wav') : undefined;

/** Compares a file of one print with that of another. Sources are asked for only where they can be laid over each other. */
export async function compareFile(
  k: Kernels,
  pair: FilePair,
  open: (file: FileProof, of: 'before' | 'after') => Promise<ByteSource & { close(): Promise<unknown> }>,
): Promise<FileChange> {
  const why = unlike(pair);
  if (why) return { ...pair, difference: null, place: null, why };
  const [before, after] = [pair.before!, pair.after!];
  const [a, b] = [await open(before, 'before'), await open(after, 'after')];
  try {
    const { difference, place } = await sumCheck(
      k,
      [{ source: b, channels: channelsOf(after), lead: after.lead ?? 0 }],
      { source: a, channels: channelsOf(before), lead: before.lead ?? 0 },
    );
    const speakers = after.layout && isLayout(after.layout) ? layoutOf(after.layout).speakers : [];
    return {
      ...pair,
      difference,
      place: place && {
        seconds: place.frame / after.facts.sampleRate,
        speaker: speakers[place.channel]?.label ?? String(place.channel + 1),
      },
      why: null,
    };
  } finally {
    await Promise.all([a.close(), b.close()]);
  }
}

const SPAN = 16_384;

/**
 * Planar samples of one file less those of another, in the channels of the first, span by span behind their lead-ins. Both have
 * the same width and length; `write` gets the addresses of the channels and the frames.
 */
export async function takeApart(
  k: Kernels,
  one: { source: ByteSource; file: FileProof },
  other: { source: ByteSource; file: FileProof },
  write: (table: number, frames: number) => Promise<void>,
): Promise<void> {
  const infos = [await parseAudio(one.source), await parseAudio(other.source)] as const;
  const [a, b] = infos.map((i) => new FrameCodec(k, i.format, i.channels, SPAN, i.bigEndian)) as [
    FrameCodec,
    FrameCodec,
  ];
  const [mine, theirs] = [channelsOf(one.file), channelsOf(other.file)];
  try {
    const leads = [one.file.lead ?? 0, other.file.lead ?? 0] as const;
    for (let at = 0; at < infos[0].frames - leads[0]; at += SPAN) {
      const n = a.decode(await readFrames(one.source, infos[0], leads[0] + at, SPAN));
      b.decode(await readFrames(other.source, infos[1], leads[1] + at, SPAN));
      for (let c = 0; c < infos[0].channels; c++)
        k.x.mix(b.planar.at(theirs?.[c] ?? c), a.planar.at(mine?.[c] ?? c), n, -1);
      await write(a.planar.table, n);
    }
  } finally {
    a.free();
    b.free();
  }
}
