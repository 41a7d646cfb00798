import { FrameCodec, parseAudio, readFrames, type AudioInfo } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { openFile, type OpenSource } from './fileSource';

interface OpenFile {
  source: OpenSource;
  info: AudioInfo;
  codec: FrameCodec;
}

/** A file that does not give what the session relies on. Asked what to do: throw, or return for silence. */
export type OnFault = (media: string, from: number, why: string) => void;

/** Reads frames of many WAV files as planar f32; keeps files open until `close`. */
export class WavReader {
  private readonly files = new Map<string, Promise<OpenFile>>();

  constructor(
    private readonly k: Kernels,
    private readonly pathOf: (media: string) => string | Promise<string>,
    private readonly mostFrames: number,
    /** Without it what is not there is silent, as when playing. */
    private readonly onFault: OnFault | null = null,
  ) {}

  /** Reads under way: what they lay sound into must stay until they end. */
  private readonly under = new Set<Promise<unknown>>();

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
  readonly read = (
    media: string,
    from: number,
    frames: number,
    lay: (planar: readonly Float32Array[]) => void,
  ): Promise<void> => {
    const reading = this.readNow(media, from, frames, lay);
    this.under.add(reading);
    const over = () => void this.under.delete(reading);
    reading.then(over, over);
    return reading;
  };

  private async readNow(
    media: string,
    from: number,
    frames: number,
    lay: (planar: readonly Float32Array[]) => void,
  ): Promise<void> {
    const wanted = Math.min(frames, this.mostFrames);
    let file: OpenFile;
    try {
      file = await this.open(media);
    } catch (error) {
      if (!this.onFault) throw error;
      this.onFault(media, from, (error as Error).message);
      return;
    }
    const { source, info, codec } = file;
    const bytes = await readFrames(source, info, from, wanted);
    const n = codec.decode(bytes);
    if (n < wanted) this.onFault?.(media, from + n, 'it ends there');
    lay(Array.from({ length: info.channels }, (_, c) => codec.planar.view(c, n)));
  }

  /** Waits for what is under way, then closes every file. */
  async close(): Promise<void> {
    await Promise.allSettled(this.under);
    for (const file of this.files.values()) {
      const open = await file.catch(() => null);
      open?.codec.free();
      await open?.source.close();
    }
    this.files.clear();
  }
}
