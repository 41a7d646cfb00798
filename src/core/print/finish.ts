import {
  bytesPerSample,
  DATA_OFFSET,
  FrameCodec,
  parseAudio,
  readFrames,
  Resampler,
  type ByteSource,
  type Dithering,
  type SampleFormat,
} from '@/core/files';
import { RAMP_BYTES, type Kernels } from '@/core/kernels';
import type { PrintSink } from './run';

const SPAN = 16_384;

/** What is made of a printed file after the mix. */
export interface FinishTo {
  format: SampleFormat;
  dither: Dithering;
  sampleRate: number;
  /** Linear; of what stands from frame `from` of the given file on. */
  gain: number;
  from: number;
}

/**
 * Makes a file of another level, rate or word length from one that was printed in floating point: gain first, then the
 * rate, then the rounding. Leaves the first DATA_OFFSET bytes for the header. Returns its frames, and the samples that were beyond
 * full scale and are held there. Throws the signal's reason when it is aborted, RangeError where the rates have no
 * conversion.
 */
export async function finishFile(
  k: Kernels,
  source: ByteSource,
  sink: PrintSink,
  to: FinishTo,
  signal?: AbortSignal,
): Promise<{ frames: number; overs: number }> {
  const info = await parseAudio(source);
  const { channels } = info;
  const rates =
    info.sampleRate === to.sampleRate ? null : new Resampler(k, info.sampleRate, to.sampleRate, channels, SPAN);
  const codec = new FrameCodec(k, info.format, channels, SPAN, info.bigEndian);
  const out = new FrameCodec(k, to.format, channels, rates?.mostOut ?? SPAN);
  const ramp = k.x.alloc(RAMP_BYTES);
  const block = channels * bytesPerSample(to.format);
  let [frames, overs] = [0, 0];
  const give = async (table: number, n: number) => {
    if (n === 0) return;
    const { bytes, overs: beyond } = out.encode(table, n, to.dither);
    overs += beyond;
    // Copied: the kernels' memory may be moved while the file is written.
    await sink.write(DATA_OFFSET + frames * block, bytes.slice());
    frames += n;
  };
  try {
    for (let at = 0; at < info.frames; at += SPAN) {
      signal?.throwIfAborted();
      const n = codec.decode(await readFrames(source, info, at, SPAN));
      const skipped = Math.max(0, Math.min(n, to.from - at));
      if (to.gain !== 1)
        for (let c = 0; c < channels; c++) {
          k.x.rampInit(ramp, to.gain);
          k.x.scaleRamp(ramp, codec.planar.at(c) + skipped * 4, n - skipped);
        }
      if (!rates) await give(codec.planar.table, n);
      else await give(rates.output.table, rates.run(codec.planar.table, n));
    }
    if (rates) await give(rates.output.table, rates.finish());
  } finally {
    k.x.release(ramp);
    codec.free();
    out.free();
    rates?.free();
  }
  return { frames, overs };
}
