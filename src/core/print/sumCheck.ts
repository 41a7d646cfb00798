import {
  bitsOf,
  FrameCodec,
  parseAudio,
  readFrames,
  type ByteSource,
  type Dithering,
  type SampleFormat,
} from '@/core/files';
import type { Kernels } from '@/core/kernels';

const SPAN = 16384;

/** A file with the place of each channel in it: of all files the same channels are added up, in whatever order. */
export interface ChannelsOf {
  source: ByteSource;
  channels?: readonly number[];
  /** Noise that was added before its rounding. */
  dither?: Dithering;
  /** Its first frames that are a lead-in and no part of what is compared. */
  lead?: number;
}

export interface SumCheck {
  /** Peak of (sum of the stems - reference), dBFS; -Infinity when they are equal. */
  difference: number;
  /** What the rounding of the files alone may cause, dBFS. */
  allowed: number;
  frames: number;
  channels: number;
  stems: number;
  /** Hz; earlier releases did not say. */
  sampleRate?: number;
  /** Frame and channel of the largest difference; null when there is none. */
  place: { frame: number; channel: number } | null;
}

/** Steps of rounding at most: half of one, with triangular noise one more, shaped that by the sum of the taps. */
const STEPS: Record<Dithering, number> = {
  none: 0.5,
  tpdf: 1.5,
  shaped: 1.5 * (1 + 2.033 + 2.165 + 1.959 + 1.59 + 0.6149),
};

// 16 bits are dithered where nothing is said; of floating samples the last ones count that 24 bits hold.
const rounding = (format: SampleFormat, dither: Dithering = format === 16 ? 'tpdf' : 'none'): number =>
  STEPS[dither] * 2 ** (1 - Math.min(24, bitsOf(format)));

/**
 * Adds the stems' samples as they stand in the files and compares with the reference's, sample by sample
 * and channel by channel. All files must have the same width and, behind their lead-ins, the same length; places
 * are told from there on.
 */
export async function sumCheck(
  k: Kernels,
  stems: readonly ChannelsOf[],
  reference: ChannelsOf,
  { signal }: { signal?: AbortSignal } = {},
): Promise<SumCheck> {
  const all = [...stems, reference];
  const sources = all.map((f) => f.source);
  const at = (file: number, c: number) => all[file]!.channels?.[c] ?? c;
  const infos = await Promise.all(sources.map(parseAudio));
  const ref = infos.at(-1)!;
  const leads = all.map((f) => f.lead ?? 0);
  const frames = ref.frames - leads.at(-1)!;
  for (const [i, info] of infos.entries()) {
    if (info.channels !== ref.channels || info.frames - leads[i]! !== frames)
      throw new RangeError('stems and reference differ in width or length');
  }
  const codecs = infos.map((i) => new FrameCodec(k, i.format, i.channels, SPAN, i.bigEndian));
  const sum = codecs.at(-1)!.planar;
  let top = 0;
  let place: SumCheck['place'] = null;
  for (let from = 0; from < frames; from += SPAN) {
    signal?.throwIfAborted();
    const bytes = await Promise.all(sources.map((s, i) => readFrames(s, infos[i]!, leads[i]! + from, SPAN)));
    const n = codecs.map((c, i) => c.decode(bytes[i]!)).at(-1)!;
    // Stems are taken from the reference one by one: what is left is the difference.
    codecs.slice(0, -1).forEach((codec, i) => {
      for (let c = 0; c < ref.channels; c++) k.x.mix(codec.planar.at(at(i, c)), sum.at(at(stems.length, c)), n, -1);
    });
    for (let c = 0; c < ref.channels; c++) {
      const left = at(stems.length, c);
      const peak = k.x.peakAbs(sum.at(left), n);
      if (peak <= top) continue;
      top = peak;
      place = { frame: from + sum.view(left, n).findIndex((v) => Math.abs(v) === peak), channel: c };
    }
  }
  codecs.forEach((c) => c.free());
  return {
    difference: 20 * Math.log10(top),
    allowed: 20 * Math.log10(infos.reduce((sum, i, file) => sum + rounding(i.format, all[file]!.dither), 0)),
    place,
    frames,
    channels: ref.channels,
    sampleRate: ref.sampleRate,
    stems: stems.length,
  };
}
