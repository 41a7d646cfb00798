import { FrameCodec, parseAudio, readFrames } from '@/core/files';
import { ChannelSet, type Kernels } from '@/core/kernels';
import { Measure } from '@/core/measure';
import type { Linked } from '@/core/session';
import type { ChannelsOf } from './sumCheck';

const SPAN = 16384;

/** Highest peaks of a sum of files. */
export interface SumPeaks {
  /** dBFS. */
  sample: number;
  /** dBTP. */
  true: number;
}

/** What the printed stems of a reference come to that limits them together. */
export interface LinkedProof {
  /** dBFS or dBTP. */
  ceiling: number;
  peaks: Linked['peaks'];
  sum: SumPeaks;
  /** The sum of all stems but one; stems that cancel each other may leave more when one is taken away. */
  without: (SumPeaks & { stem: string })[];
}

/**
 * Adds the stems up as they stand in the files, all of them and without each one, and measures the peaks of the sums.
 * All files must have the same width, rate and length; their lead-ins do not count.
 */
export async function proveLinked(
  k: Kernels,
  linked: Linked,
  stems: readonly (ChannelsOf & { name: string })[],
  { signal }: { signal?: AbortSignal } = {},
): Promise<LinkedProof> {
  const infos = await Promise.all(stems.map((s) => parseAudio(s.source)));
  const [{ channels, frames, sampleRate }] = infos as [(typeof infos)[0]];
  const codecs = infos.map((i) => new FrameCodec(k, i.format, i.channels, SPAN, i.bigEndian));
  const sum = new ChannelSet(k, channels, SPAN);
  const flat = Array<number>(channels).fill(0);
  // One stem alone has nothing to be taken away from.
  const cases = stems.length > 1 ? [-1, ...stems.keys()] : [-1];
  const meters = cases.map(() => new Measure(k, sampleRate, flat, SPAN));
  const lead = stems[0]?.lead ?? 0;
  for (let at = lead; at < frames; at += SPAN) {
    signal?.throwIfAborted();
    const bytes = await Promise.all(stems.map((s, i) => readFrames(s.source, infos[i]!, at, SPAN)));
    const n = codecs.map((c, i) => c.decode(bytes[i]!)).at(-1)!;
    cases.forEach((left, which) => {
      sum.clear(n);
      codecs.forEach((codec, i) => {
        const at = stems[i]!.channels;
        if (i !== left) for (let c = 0; c < channels; c++) k.x.mix(codec.planar.at(at?.[c] ?? c), sum.at(c), n, 1);
      });
      meters[which]!.run(sum.table, n);
    });
  }
  const found = meters.map((m): SumPeaks => {
    const { samplePeak, truePeak } = m.result();
    return { sample: samplePeak, true: truePeak };
  });
  meters.forEach((m) => m.free());
  codecs.forEach((c) => c.free());
  sum.free();
  const [all, ...without] = found as [SumPeaks, ...SumPeaks[]];
  return {
    ceiling: linked.ceiling,
    peaks: linked.peaks,
    sum: all,
    without: without.map((p, i) => ({ stem: stems[i]!.name, ...p })),
  };
}

/** The proof of linked limiting in sentences, for the report and the screen. */
export function linkedSentences(proof: LinkedProof): string[] {
  const unit = proof.peaks === 'true' ? 'dBTP' : 'dBFS';
  const of = (p: SumPeaks) => (proof.peaks === 'true' ? p.true : p.sample);
  const text = (db: number) => (Number.isFinite(db) ? db.toFixed(2) : '-∞');
  const over = proof.without.filter((p) => of(p) > proof.ceiling);
  return [
    `Together the stems reach ${text(of(proof.sum))} ${unit}; the ceiling is ${text(proof.ceiling)}.`,
    ...over.map(
      (p) =>
        `Without ${p.stem} the rest reaches ${text(of(p))} ${unit}, ${(of(p) - proof.ceiling).toFixed(2)} dB over the ceiling.`,
    ),
    ...(proof.without.length > 0 && over.length === 0 ? ['Without any one of them the rest stays under it.'] : []),
  ];
}
