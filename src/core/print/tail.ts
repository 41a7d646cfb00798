import { FrameCodec, parseAudio, readFrames, type ByteSource } from '@/core/files';
import type { Kernels } from '@/core/kernels';

const SPAN = 16_384;
/** A tail has decayed where it stays so far below the last peak (dB; common practice, no source) … */
const DECAYED = -60;
/** … or below what anybody hears (dBFS). */
const UNHEARD = -100;
/** The last peak is looked for in so many seconds before the tail. */
const BEFORE = 3;

/**
 * Frame behind the last one of a file that still sounds: of what stands from `from` on, that is not 60 dB below the highest
 * peak of the three seconds before, nor below -100 dBFS. `from` where nothing does.
 */
export async function tailEnd(k: Kernels, source: ByteSource, from: number): Promise<number> {
  const info = await parseAudio(source);
  const codec = new FrameCodec(k, info.format, info.channels, SPAN, info.bigEndian);
  const start = Math.max(0, from - BEFORE * info.sampleRate);
  let peak = 0;
  const above: { frame: number; level: number }[] = [];
  try {
    for (let at = start; at < info.frames; at += SPAN) {
      const n = codec.decode(await readFrames(source, info, at, Math.min(SPAN, info.frames - at)));
      const views = Array.from({ length: info.channels }, (_, c) => codec.planar.view(c, n));
      for (const view of views) for (const v of view) peak = Math.max(peak, Math.abs(v));
      if (at + n <= from) continue;
      // Of each stretch the last frame of each level is enough: louder ones before softer ones are not asked for again.
      for (let i = Math.max(0, from - at); i < n; i++) {
        const level = views.reduce((most, view) => Math.max(most, Math.abs(view[i]!)), 0);
        while (above.length > 0 && above.at(-1)!.level <= level) above.pop();
        if (level > 0) above.push({ frame: at + i, level });
      }
    }
  } finally {
    codec.free();
  }
  const least = Math.max(peak * 10 ** (DECAYED / 20), 10 ** (UNHEARD / 20));
  const last = above.findLast((a) => a.level > least);
  return last ? last.frame + 1 : from;
}
