import { type ByteSink, type ByteSource, FrameCodec, parseAudio } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { MemorySource } from './memorySource';

/** A file in memory that can be written anywhere. */
export class MemorySink implements ByteSink {
  private all = new Uint8Array(0);

  async put(offset: number, bytes: Uint8Array): Promise<void> {
    if (offset + bytes.length > this.all.length) {
      const larger = new Uint8Array(offset + bytes.length);
      larger.set(this.all);
      this.all = larger;
    }
    this.all.set(bytes, offset);
  }

  get bytes(): Uint8Array {
    return this.all;
  }

  get source(): MemorySource {
    return new MemorySource(this.all);
  }
}

/** All samples of a WAV or AIFF in memory. */
export async function samplesOf(k: Kernels, source: ByteSource): Promise<Float32Array[]> {
  const info = await parseAudio(source);
  const codec = new FrameCodec(k, info.format, info.channels, Math.max(1, info.frames), info.bigEndian);
  codec.decode(await source.read(info.dataOffset, source.size));
  const out = Array.from({ length: info.channels }, (_, c) => codec.planar.view(c, info.frames).slice());
  codec.free();
  return out;
}
