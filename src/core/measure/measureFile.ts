import { bitsOf, FrameCodec, isFloat, parseWav, type ByteSource, type WavInfo } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { LAYOUTS, loudnessWeights, type Layout } from '@/core/speakers';
import { Measure, type Measured } from './measure';
import { spans } from './spanReader';

const SPAN = 65536;

export interface FileFacts extends Measured {
  channels: number;
  sampleRate: number;
  bits: number;
  float: boolean;
  frames: number;
  seconds: number;
  /** Samples since midnight, where the file says so. */
  timeReference: number | null;
  layout: string;
  notes: string[];
}

/** The layout a file's channel mask or width stands for; null when none fits. */
export function layoutOfFile(info: Pick<WavInfo, 'channels' | 'mask'>): Layout | null {
  const back = info.mask === 0x3f ? 0x60f : info.mask === 0x37 ? 0x607 : info.mask;
  return (
    LAYOUTS.find((l) => l.mask !== 0 && l.mask === back && l.speakers.length === info.channels) ??
    LAYOUTS.find(
      (l) =>
        l.speakers.length === info.channels &&
        ['mono', 'stereo', 'lcr', 'quad', '5.0', '5.1', '7.0', '7.1'].includes(l.id),
    ) ??
    null
  );
}

/** Reads a file once and measures it. Throws FileFault when it is no WAV. */
export async function measureFile(k: Kernels, source: ByteSource): Promise<FileFacts> {
  const info = await parseWav(source);
  const layout = layoutOfFile(info);
  const weights = layout ? loudnessWeights(layout) : Array<number>(info.channels).fill(1);
  const codec = new FrameCodec(k, info.format, info.channels, SPAN);
  const measure = new Measure(k, info.sampleRate, weights, SPAN);
  for await (const bytes of spans(source, info, SPAN)) {
    measure.run(codec.planar.table, codec.decode(bytes));
  }
  const facts = {
    ...measure.result(),
    channels: info.channels,
    sampleRate: info.sampleRate,
    bits: bitsOf(info.format),
    float: isFloat(info.format),
    frames: info.frames,
    seconds: info.frames / info.sampleRate,
    timeReference: info.bext?.timeReference ?? null,
    layout: layout?.id ?? `${info.channels} channels`,
    notes: info.notes,
  };
  codec.free();
  measure.free();
  return facts;
}
