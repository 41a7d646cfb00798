import { readFile, rename, writeFile } from 'node:fs/promises';
import { type AudioInfo, FrameCodec, parseAudio, PEAK_LEVELS, PeakPyramid, spans } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { openFile } from './fileSource';

const SPAN = 65_536;

const bytesOf = (info: AudioInfo, level: number): number => Math.ceil(info.frames / PEAK_LEVELS[level]!) * 4;
const keptAt = (path: string): string => `${path}.peaks`;

async function infoOf(path: string): Promise<AudioInfo> {
  const source = await openFile(path);
  return parseAudio(source).finally(() => source.close());
}

/** Makes a file's peaks and keeps them beside it. */
export async function makePeaks(k: Kernels, path: string): Promise<{ frames: number }> {
  const source = await openFile(path);
  try {
    const info = await parseAudio(source);
    const codec = new FrameCodec(k, info.format, info.channels, SPAN, info.bigEndian);
    const pyramid = new PeakPyramid(k, info.frames, info.channels, SPAN);
    for await (const bytes of spans(source, info, SPAN)) pyramid.run(codec.planar, codec.decode(bytes));
    codec.free();
    const levels = pyramid.finish();
    const out = new Uint8Array(levels.reduce((n, l) => n + l.byteLength, 0));
    levels.reduce((at, l) => (out.set(new Uint8Array(l.buffer), at), at + l.byteLength), 0);
    // In one step: whoever reads meanwhile finds the old ones or none.
    const fresh = `${keptAt(path)}.${process.pid}-${Math.random().toString(36).slice(2, 8)}`;
    await writeFile(fresh, out);
    await rename(fresh, keptAt(path));
    return { frames: info.frames };
  } finally {
    await source.close();
  }
}

/**
 * Smallest and largest sample as i16 pairs over all channels together, of every 256 frames (level 0), 4096
 * (1) or 65536 (2). Made once per file by `make`, and again when it has grown.
 */
export async function peaksOf(
  path: string,
  level: number,
  make: (path: string) => Promise<unknown>,
): Promise<Uint8Array<ArrayBuffer>> {
  const info = await infoOf(path);
  const sizes = PEAK_LEVELS.map((_, l) => bytesOf(info, l));
  const total = sizes.reduce((a, b) => a + b, 0);
  const kept = () => readFile(keptAt(path)).catch(() => null);
  let all = await kept();
  if (all?.length !== total) {
    await make(path);
    all = await kept();
  }
  const at = sizes.slice(0, level).reduce((a, b) => a + b, 0);
  return new Uint8Array(all ?? []).slice(at, at + (sizes[level] ?? 0));
}
