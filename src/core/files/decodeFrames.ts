import { SHAPE_BYTES, ChannelSet, type Kernels } from '@/core/kernels';
import type { ByteSource } from './byteSource';
import { bytesPerSample, type SampleFormat } from './sampleFormat';
import type { AudioInfo } from './audioInfo';

/** Noise before rounding: none, triangular, or triangular with its error shaped (16 and 24 bits). */
export type Dithering = 'none' | 'tpdf' | 'shaped';

/** Interleaved file bytes to planar f32 and back, through one pair of buffers that is kept. */
export class FrameCodec {
  private readonly raw: number;
  readonly planar: ChannelSet;
  private readonly ditherState: number;
  private readonly errors: number;

  constructor(
    private readonly k: Kernels,
    readonly format: SampleFormat,
    readonly channels: number,
    readonly mostFrames: number,
    private readonly bigEndian = false,
  ) {
    this.raw = k.x.alloc(mostFrames * channels * bytesPerSample(format));
    this.planar = new ChannelSet(k, channels, mostFrames);
    this.ditherState = k.x.alloc(16);
    k.u32(this.ditherState, 1)[0] = 0x9e3779b9;
    this.errors = k.x.alloc(SHAPE_BYTES * channels);
    k.bytes(this.errors, SHAPE_BYTES * channels).fill(0);
  }

  /** Fills `planar` from `bytes`; returns the number of whole frames. */
  decode(bytes: Uint8Array): number {
    const block = this.channels * bytesPerSample(this.format);
    const frames = Math.min(this.mostFrames, Math.floor(bytes.length / block));
    // No more than there is room for: what stands behind the sound of a file is none.
    this.k.bytes(this.raw, frames * block).set(bytes.subarray(0, frames * block));
    this.turn(frames);
    this.k.x.decode(this.format, this.raw, this.channels, frames, this.planar.table);
    return frames;
  }

  /**
   * Encodes the first `frames` of the channels in `table`. The returned bytes are a view that the next
   * call overwrites; `overs` counts samples held at full scale.
   */
  encode(table: number, frames: number, dither: Dithering = 'none'): { bytes: Uint8Array; overs: number } {
    const { k, format, channels, raw, ditherState } = this;
    if (dither === 'shaped' && format !== 16 && format !== 24)
      throw new RangeError('only the rounding to 16 and 24 bits is shaped');
    const overs =
      dither === 'shaped'
        ? k.x.encodeShaped(format, table, channels, frames, raw, ditherState, this.errors)
        : k.x.encode(format, table, channels, frames, raw, dither === 'tpdf' ? ditherState : 0);
    this.turn(frames);
    return { bytes: this.k.bytes(this.raw, frames * this.channels * bytesPerSample(this.format)), overs };
  }

  private turn(frames: number): void {
    if (this.bigEndian) this.k.x.swapBytes(this.raw, frames * this.channels, bytesPerSample(this.format));
  }

  free(): void {
    this.k.x.release(this.raw);
    this.k.x.release(this.ditherState);
    this.k.x.release(this.errors);
    this.planar.free();
  }
}

/** Reads frames [from, from + count) of a file; short at the end. */
export async function readFrames(
  source: ByteSource,
  info: AudioInfo,
  from: number,
  count: number,
  into?: Uint8Array,
): Promise<Uint8Array> {
  const block = info.channels * bytesPerSample(info.format);
  const frames = Math.max(0, Math.min(count, info.frames - from));
  return source.read(info.dataOffset + from * block, frames * block, into);
}
