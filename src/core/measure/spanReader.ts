import { type ByteSource, bytesPerSample, readFrames, type WavInfo } from '@/core/files';

/** Reads a WAV from start to end in spans, the next one being fetched while this one is worked on. */
export async function* spans(source: ByteSource, info: WavInfo, frames: number): AsyncGenerator<Uint8Array> {
  const block = info.channels * bytesPerSample(info.format);
  let ahead = readFrames(source, info, 0, frames);
  for (let at = 0; at < info.frames; at += frames) {
    const bytes = await ahead;
    if (bytes.length < block) return;
    ahead = readFrames(source, info, at + frames, frames);
    yield bytes;
  }
  await ahead;
}
