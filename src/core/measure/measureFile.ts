import { type AudioStream, bitsOf, isFloat, openPcm, STREAM_SPAN, type ByteSource } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { layoutIn, loudnessWeights, mirrorPairs, type Layout } from '@/core/speakers';
import { Measure, type Measured } from './measure';
import { saidChannels } from './saidChannels';

export interface FileFacts extends Measured {
  kind: AudioStream['kind'];
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

export interface FileMeasureOptions {
  levels?: boolean;
  spectrum?: boolean;
  dialogue?: boolean;
  /** Its speakers in the order of its channels; unless told, what its mask or its width stands for. */
  as?: Layout;
  /** Frames at its begin that are not measured: a lead-in is no programme. */
  from?: number;
  signal?: AbortSignal;
}

/** Reads a WAV, RF64, BW64 or AIFF file once and measures it. Throws FileFault when it is none of them. */
export async function measureFile(
  k: Kernels,
  source: ByteSource,
  options: FileMeasureOptions = {},
): Promise<FileFacts> {
  return measureStream(k, await openPcm(k, source), options);
}

/** Speakers of a file as they stand in it, as far as it says; in the order of masks where nobody does. */
function speakersOf(stream: AudioStream): Layout | null {
  const { layout, order } = saidChannels(stream);
  return layout && layoutIn(layout, order ?? 'wav');
}

/** Measures a stream from start to end, whatever file it comes from. */
export async function measureStream(
  k: Kernels,
  stream: AudioStream,
  { levels, spectrum = false, dialogue = false, as, from = 0, signal }: FileMeasureOptions = {},
): Promise<FileFacts> {
  const layout = as?.speakers.length === stream.channels ? as : speakersOf(stream);
  const weights = layout ? loudnessWeights(layout) : Array<number>(stream.channels).fill(1);
  const pairs = layout ? mirrorPairs(layout) : [];
  const measure = new Measure(k, stream.sampleRate, weights, STREAM_SPAN, {
    ...(levels ? { levels: { pairs } } : {}),
    spectrum,
    dialogue,
  });
  const table = k.x.alloc(stream.channels * 4);
  let frames = 0;
  try {
    for await (const { set, frames: n } of stream.blocks()) {
      signal?.throwIfAborted();
      const skipped = Math.max(0, Math.min(n, from - frames));
      for (let c = 0; c < stream.channels; c++) k.heapU32[(table >> 2) + c] = set.at(c) + skipped * 4;
      if (n > skipped) measure.run(table, n - skipped);
      frames += n;
    }
  } finally {
    k.x.release(table);
  }
  const result = measure.result();
  measure.free();
  return {
    ...result,
    kind: stream.kind,
    channels: stream.channels,
    sampleRate: stream.sampleRate,
    bits: bitsOf(stream.format),
    float: isFloat(stream.format),
    frames,
    seconds: frames / stream.sampleRate,
    timeReference: stream.bext?.timeReference ?? null,
    layout: layout?.id ?? `${stream.channels} channels`,
    notes: stream.notes,
  };
}
