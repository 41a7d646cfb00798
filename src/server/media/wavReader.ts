import { FrameCodec, parseAudio, readFrames, type AudioInfo } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { openFile, type OpenSource } from './fileSource';

interface OpenFile {
  source: OpenSource;
  info: AudioInfo;
  codec: FrameCodec;
}

/** Reads frames of many WAV files as planar f32; keeps files open until `close`. */
export class WavReader {
  private readonly files = new Map<string, Promise<OpenFile>>();

  constructor(
    private readonly k: Kernels,
    private readonly pathOf: (media: string) => string | Promise<string>,
    private readonly mostFrames: number,
  ) {}

  private open(media: string): Promise<OpenFile> {
    let found = this.files.get(media);
    if (!found) {
      found = (async () => {
        const source = await openFile(await this.pathOf(media));
        const info = await parseAudio(source).catch(async (error: unknown) => {
          await source.close();
          throw error;
        });
        return {
          source,
          info,
          codec: new FrameCodec(this.k, info.format, info.channels, this.mostFrames, info.bigEndian),
        };
      })();
      this.files.set(media, found);
    }
    return found;
  }

  /** Gives `lay` one array a channel, views that hold only until it returns. */
  readonly read = async (
    media: string,
    from: number,
    frames: number,
    lay: (planar: readonly Float32Array[]) => void,
  ): Promise<void> => {
    const { source, info, codec } = await this.open(media);
    const bytes = await readFrames(source, info, from, Math.min(frames, this.mostFrames));
    const n = codec.decode(bytes);
    lay(Array.from({ length: info.channels }, (_, c) => codec.planar.view(c, n)));
  };

  async close(): Promise<void> {
    for (const file of this.files.values()) {
      const { source, codec } = await file;
      codec.free();
      await source.close();
    }
    this.files.clear();
  }
}
