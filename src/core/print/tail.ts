import { FrameCodec, parseAudio, readFrames, type ByteSource } from '@/core/files';
import type { Kernels } from '@/core/kernels';

const SPAN = 16_384;
/** A tail has decayed where it stays so far below the last peak (dB; common practice, no source) … */
const DECAYED = -60;
/** … or below what anybody hears (dBFS). */
const UNHEARD = -100;
/** The last peak is looked for from so many seconds before the tail on. */
const BEFORE = 3;

/**
 * Frame behind the last one of a file that still sounds: of what stands from `from` on, that is less than 60 dB below the
 * highest peak from three seconds before it on, and above -100 dBFS. `from` where nothing does.
 */
export async function tailEnd(k: Kernels, source: ByteSource, from: number): Promise<number> {
  const info = await parseAudio(source);
  const codec = new FrameCodec(k, info.format, info.channels, SPAN, info.bigEndian);
  const channels = Array.from({ length: info.channels }, (_, c) => c);
  /** Decodes from a frame on; gives how many frames there are. */
  const at = async (frame: number) => codec.decode(await readFrames(source, info, frame, SPAN));
  try {
    let peak = 0;
    for (let start = Math.max(0, from - BEFORE * info.sampleRate); start < info.frames; start += SPAN) {
      const n = await at(start);
      for (const c of channels) peak = Math.max(peak, k.x.peakAbs(codec.planar.at(c), n));
    }
    const least = Math.max(peak * 10 ** (DECAYED / 20), 10 ** (UNHEARD / 20));
    for (let end = info.frames; end > from;) {
      const start = Math.max(from, end - SPAN);
      const n = Math.min(await at(start), end - start);
      const last = Math.max(...channels.map((c) => codec.planar.view(c, n).findLastIndex((v) => Math.abs(v) > least)));
      if (last >= 0) return start + last + 1;
      end = start;
    }
    return from;
  } finally {
    codec.free();
  }
}
