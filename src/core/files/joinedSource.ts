import type { AudioInfo } from './audioInfo';
import { type ByteSource, FileFault } from './byteSource';
import { parseAudio } from './parseAudio';
import { bytesPerSample } from './sampleFormat';
import { DATA_OFFSET, wavHeader } from './wavHeader';

/**
 * "Surf_{L,R}.wav" stands for one file a channel, "Surf_L.wav" and "Surf_R.wav", in the order of the channels.
 * Any other name stands for itself.
 */
export function partNames(name: string): string[] {
  const found = /^(.*)\{([^{}/\\]+)\}([^{}]*)$/.exec(name);
  return found ? found[2]!.split(',').map((part) => `${found[1]}${part}${found[3]}`) : [name];
}

/** One name for a file a channel; with one channel the plain name. */
export const joinedName = (stem: string, channels: readonly string[], extension: string): string =>
  channels.length > 1 ? `${stem}_{${channels.join(',')}}${extension}` : `${stem}${extension}`;

interface Part {
  source: ByteSource;
  info: AudioInfo;
}

/**
 * Several files of one channel, read as one interleaved WAV: whoever reads files needs not know how they lie on disk.
 * It is as long as the shortest of them.
 */
export class JoinedSource implements ByteSource {
  readonly size: number;
  private readonly head: Uint8Array;
  private readonly width: number;

  private constructor(
    private readonly parts: readonly Part[],
    frames: number,
  ) {
    const { info } = parts[0]!;
    this.width = bytesPerSample(info.format);
    this.head = wavHeader({
      format: info.format,
      channels: parts.length,
      sampleRate: info.sampleRate,
      frames,
      mask: 0,
      ...(info.bext ? { bext: info.bext } : {}),
    });
    this.size = DATA_OFFSET + frames * parts.length * this.width;
  }

  /** Throws FileFault when a file has more than one channel or differs from the first in rate or word length. */
  static async of(sources: readonly ByteSource[]): Promise<JoinedSource> {
    const parts = await Promise.all(sources.map(async (source) => ({ source, info: await parseAudio(source) })));
    const first = parts[0]!.info;
    parts.forEach(({ info }, i) => {
      if (info.channels !== 1)
        throw new FileFault(`File ${i + 1} of ${parts.length} has ${info.channels} channels in place of one.`);
      if (info.format !== first.format || info.sampleRate !== first.sampleRate)
        throw new FileFault(`File ${i + 1} of ${parts.length} has another rate or word length than the first.`);
    });
    return new JoinedSource(parts, Math.min(...parts.map((p) => p.info.frames)));
  }

  async read(offset: number, length: number): Promise<Uint8Array> {
    const end = Math.max(offset, Math.min(this.size, offset + length));
    const out = new Uint8Array(end - offset);
    if (offset < DATA_OFFSET) out.set(this.head.subarray(offset, Math.min(end, DATA_OFFSET)));
    if (end > DATA_OFFSET) {
      const block = this.parts.length * this.width;
      const from = Math.max(0, offset - DATA_OFFSET);
      const first = Math.floor(from / block);
      const bytes = await this.interleaved(first, Math.ceil((end - DATA_OFFSET) / block) - first);
      const skip = from - first * block;
      out.set(bytes.subarray(skip, skip + end - DATA_OFFSET - from), Math.max(0, DATA_OFFSET - offset));
    }
    return out;
  }

  private async interleaved(first: number, frames: number): Promise<Uint8Array> {
    const { width, parts } = this;
    const block = parts.length * width;
    const out = new Uint8Array(frames * block);
    await Promise.all(
      parts.map(async ({ source, info }, c) => {
        const bytes = await source.read(info.dataOffset + first * width, frames * width);
        for (let b = 0; b < width; b++) {
          // A WAV's samples are little-endian.
          const take = info.bigEndian ? width - 1 - b : b;
          for (let i = take, o = c * width + b; i < bytes.length; i += width, o += block) out[o] = bytes[i]!;
        }
      }),
    );
    return out;
  }
}
