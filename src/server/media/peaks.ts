import { readFile, writeFile } from 'node:fs/promises';
import { type AudioInfo, FrameCodec, parseAudio, PEAK_LEVELS, PeakPyramid, spans, type ByteSource } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { openFile } from './fileSource';

const SPAN = 65_536;

const bytesOf = (info: AudioInfo, level: number): number => Math.ceil(info.frames / PEAK_LEVELS[level]!) * 4;

/**
 * Smallest and largest sample as i16 pairs over all channels together, of every 256 frames (level 0), 4096
 * (1) or 65536 (2). Made once per file and kept beside it.
 */
export async function peaksOf(k: Kernels, path: string, level = 0): Promise<Uint8Array<ArrayBuffer>> {
  const source = await openFile(path);
  const kept = `${path}.peaks`;
  try {
    const info = await parseAudio(source);
    const sizes = PEAK_LEVELS.map((_, l) => bytesOf(info, l));
    const total = sizes.reduce((a, b) => a + b, 0);
    const old = await readFile(kept).catch(() => null);
    const all = old?.length === total ? new Uint8Array(old) : await makePeaks(k, source, info);
    if (old?.length !== total) await writeFile(kept, all);
    const at = sizes.slice(0, level).reduce((a, b) => a + b, 0);
    return all.slice(at, at + (sizes[level] ?? 0));
  } finally {
    await source.close();
  }
}

async function makePeaks(k: Kernels, source: ByteSource, info: AudioInfo): Promise<Uint8Array<ArrayBuffer>> {
  const codec = new FrameCodec(k, info.format, info.channels, SPAN, info.bigEndian);
  const pyramid = new PeakPyramid(k, info.frames, info.channels, SPAN);
  for await (const bytes of spans(source, info, SPAN)) pyramid.run(codec.planar, codec.decode(bytes));
  codec.free();
  const levels = pyramid.finish();
  const out = new Uint8Array(levels.reduce((n, l) => n + l.byteLength, 0));
  levels.reduce((at, l) => (out.set(new Uint8Array(l.buffer), at), at + l.byteLength), 0);
  return out;
}
