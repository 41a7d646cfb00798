import { FrameCodec, parseAudio, readFrames, type ByteSource, type SampleFormat } from '@/core/files';
import type { Kernels } from '@/core/kernels';

const SPAN = 16384;

/** A file with the place of each channel in it: of all files the same channels are added up, in whatever order. */
export interface ChannelsOf {
  source: ByteSource;
  channels?: readonly number[];
}

export interface SumCheck {
  /** Peak of (sum of the stems - reference), dBFS; -Infinity when they are equal. */
  difference: number;
  /** What the rounding of the files alone may cause, dBFS. */
  allowed: number;
  frames: number;
  channels: number;
  stems: number;
  /** Frame and channel of the largest difference; null when there is none. */
  place: { frame: number; channel: number } | null;
}

// Half a step; at 16 bits, which are dithered, the noise adds up to one step more.
const rounding = (format: SampleFormat): number => (format === 16 ? 1.5 * 2 ** -15 : 0.5 * 2 ** -23);

/**
 * Adds the stems' samples as they stand in the files and compares with the reference's, sample by sample
 * and channel by channel. All files must have the same width and length.
 */
export async function sumCheck(k: Kernels, stems: readonly ChannelsOf[], reference: ChannelsOf): Promise<SumCheck> {
  const all = [...stems, reference];
  const sources = all.map((f) => f.source);
  const at = (file: number, c: number) => all[file]!.channels?.[c] ?? c;
  const infos = await Promise.all(sources.map(parseAudio));
  const ref = infos.at(-1)!;
  for (const i of infos) {
    if (i.channels !== ref.channels || i.frames !== ref.frames)
      throw new RangeError('stems and reference differ in width or length');
  }
  const codecs = infos.map((i) => new FrameCodec(k, i.format, i.channels, SPAN, i.bigEndian));
  const sum = codecs.at(-1)!.planar;
  let top = 0;
  let place: SumCheck['place'] = null;
  for (let from = 0; from < ref.frames; from += SPAN) {
    const bytes = await Promise.all(sources.map((s, i) => readFrames(s, infos[i]!, from, SPAN)));
    const frames = codecs.map((c, i) => c.decode(bytes[i]!)).at(-1)!;
    // Stems are taken from the reference one by one: what is left is the difference.
    codecs.slice(0, -1).forEach((codec, i) => {
      for (let c = 0; c < ref.channels; c++)
        k.x.mix(codec.planar.at(at(i, c)), sum.at(at(stems.length, c)), frames, -1);
    });
    for (let c = 0; c < ref.channels; c++) {
      const left = at(stems.length, c);
      const peak = k.x.peakAbs(sum.at(left), frames);
      if (peak <= top) continue;
      top = peak;
      place = { frame: from + sum.view(left, frames).findIndex((v) => Math.abs(v) === peak), channel: c };
    }
  }
  codecs.forEach((c) => c.free());
  return {
    difference: 20 * Math.log10(top),
    allowed: 20 * Math.log10(infos.reduce((sum, i) => sum + rounding(i.format), 0)),
    place,
    frames: ref.frames,
    channels: ref.channels,
    stems: stems.length,
  };
}
