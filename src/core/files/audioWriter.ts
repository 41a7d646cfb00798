import type { Kernels } from '@/core/kernels';
import { aiffHeader, type AiffSpec } from './aiff';
import { FrameCodec } from './decodeFrames';
import { bytesPerSample } from './sampleFormat';
import { DATA_OFFSET, wavHeader, type WavSpec, type WavTrailer, wavTrailer } from './wavHeader';

/** Where a file's bytes go; `put` may write anywhere. */
export interface ByteSink {
  put(offset: number, bytes: Uint8Array): Promise<void>;
}

export type OutputSpec =
  | ({ kind: 'wav' } & Omit<WavSpec, 'frames' | 'trailerBytes'> & WavTrailer)
  | ({ kind: 'aiff' } & Omit<AiffSpec, 'frames'>);

/**
 * Writes a sound file as its samples come: the header is written last, when the length is known. Until then
 * a WAV can be read as one whose header was never finished.
 */
export class AudioWriter {
  private readonly codec: FrameCodec;
  private frames = 0;
  private held = new Uint8Array(0);
  /** What is not on its way to the disk. */
  private spare = new Uint8Array(0);
  private writing: Promise<void> = Promise.resolve();
  private overs = 0;
  private readonly start: number;

  constructor(
    k: Kernels,
    private readonly sink: ByteSink,
    private readonly spec: OutputSpec,
    mostFrames: number,
    private readonly dither = false,
  ) {
    const bigEndian = spec.kind === 'aiff' && !spec.littleEndian;
    this.codec = new FrameCodec(k, spec.format, spec.channels, mostFrames, bigEndian);
    this.start = spec.kind === 'wav' ? DATA_OFFSET : aiffHeader({ ...spec, frames: 0 }).length;
  }

  private get block(): number {
    return this.spec.channels * bytesPerSample(this.spec.format);
  }

  /** Writes `n` frames of the channels in `table`; n at most `mostFrames`. */
  async write(table: number, n: number): Promise<void> {
    if (this.frames === 0) await this.sink.put(0, this.head());
    const { bytes, overs } = this.codec.encode(table, n, this.dither ? 'tpdf' : 'none');
    this.overs += overs;
    // Copied before anything is waited for: the kernels' memory may be moved meanwhile.
    const next = this.spare.length < bytes.length ? new Uint8Array(bytes.length) : this.spare;
    next.set(bytes);
    const length = bytes.length;
    // One block is on its way to the disk while the next one is made.
    await this.writing;
    [this.spare, this.held] = [this.held, next];
    this.writing = this.sink.put(this.start + this.frames * this.block, next.subarray(0, length));
    this.writing.catch(() => {});
    this.frames += n;
  }

  private head(trailerBytes = 0): Uint8Array {
    const { spec, frames } = this;
    return spec.kind === 'aiff' ? aiffHeader({ ...spec, frames }) : wavHeader({ ...spec, frames, trailerBytes });
  }

  /** Writes what stands behind the samples, and the header. `extra` replaces parts of the description (for example measured loudness). */
  async finish(extra: Partial<WavSpec> = {}): Promise<{ frames: number; overs: number }> {
    await this.writing;
    const bytes = this.frames * this.block;
    const { spec } = this;
    const tail = spec.kind === 'wav' ? wavTrailer(spec, bytes) : new Uint8Array(bytes & 1);
    if (tail.length > 0) await this.sink.put(this.start + bytes, tail);
    if (spec.kind === 'wav') Object.assign(spec, extra);
    await this.sink.put(0, this.head(tail.length));
    this.codec.free();
    return { frames: this.frames, overs: this.overs };
  }
}
