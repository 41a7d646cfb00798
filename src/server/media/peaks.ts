import { readFile, writeFile } from 'node:fs/promises';
import { FrameCodec, parseWav } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { spans } from '@/core/measure';
import { FileSource } from './fileSource';

/** Frames per pair of smallest and largest sample. */
export const PEAK_BIN = 256;
const SPAN = PEAK_BIN * 64;

/**
 * Smallest and largest sample of every 256 frames as i16 pairs, over all channels together. Made once per
 * file and kept beside it.
 */
export async function peaksOf(k: Kernels, path: string): Promise<Uint8Array<ArrayBuffer>> {
  const source = await FileSource.open(path);
  const kept = `${path}.peaks`;
  try {
    const info = await parseWav(source);
    const bytes = Math.ceil(info.frames / PEAK_BIN) * 4;
    const old = await readFile(kept).catch(() => null);
    if (old && old.length === bytes) return new Uint8Array(old);
    const made = await makePeaks(k, source, info, bytes / 2);
    await writeFile(kept, made);
    return made;
  } finally {
    await source.close();
  }
}

async function makePeaks(
  k: Kernels,
  source: FileSource,
  info: Awaited<ReturnType<typeof parseWav>>,
  length: number,
): Promise<Uint8Array<ArrayBuffer>> {
  const out = new Int16Array(length);
  const codec = new FrameCodec(k, info.format, info.channels, SPAN);
  const pairs = k.x.alloc((SPAN / PEAK_BIN) * 8);
  let at = 0;
  for await (const bytes of spans(source, info, SPAN)) {
    const n = codec.decode(bytes);
    let bins = 0;
    for (let c = 0; c < info.channels; c++) {
      bins = k.x.peakBins(codec.planar.at(c), n, PEAK_BIN, pairs);
      const found = k.f32(pairs, bins * 2);
      for (let i = 0; i < bins; i++) {
        const low = Math.max(-32768, Math.round(found[2 * i]! * 32767));
        const high = Math.min(32767, Math.round(found[2 * i + 1]! * 32767));
        out[2 * (at + i)] = Math.min(out[2 * (at + i)]!, low);
        out[2 * (at + i) + 1] = Math.max(out[2 * (at + i) + 1]!, high);
      }
    }
    at += bins;
  }
  codec.free();
  k.x.release(pairs);
  return new Uint8Array(out.buffer);
}
