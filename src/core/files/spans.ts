import type { AudioInfo } from './audioInfo';
import type { ByteSource } from './byteSource';
import { readFrames } from './decodeFrames';
import { bytesPerSample } from './sampleFormat';

/**
 * Reads a file from start to end in spans, the next one being fetched while this one is worked on. A span is
 * valid until the next but one is asked for.
 */
export async function* spans(source: ByteSource, info: AudioInfo, frames: number): AsyncGenerator<Uint8Array> {
  const block = info.channels * bytesPerSample(info.format);
  const buffers = [0, 1].map(() => new Uint8Array(Math.min(frames, info.frames) * block));
  const fetch = (turn: number) => readFrames(source, info, turn * frames, frames, buffers[turn % 2]);
  let ahead = fetch(0);
  for (let turn = 0; turn * frames < info.frames; turn++) {
    const bytes = await ahead;
    if (bytes.length < block) return;
    ahead = fetch(turn + 1);
    yield bytes;
  }
  await ahead;
}
