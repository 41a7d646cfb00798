import { ChannelSet, type Kernels } from '@/core/kernels';
import type { ByteSource } from './byteSource';
import { bytesPerSample, type SampleFormat } from './sampleFormat';
import type { AudioInfo } from './audioInfo';

/** Interleaved file bytes to planar f32 and back, through one pair of buffers that is kept. */
export class FrameCodec {
  private readonly raw: number;
  readonly planar: ChannelSet;
  private readonly ditherState: number;

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
  }

  /** Fills `planar` from `bytes`; returns the number of whole frames. */
  decode(bytes: Uint8Array): number {
    const frames = Math.min(this.mostFrames, Math.floor(bytes.length / (this.channels * bytesPerSample(this.format))));
    this.k.bytes(this.raw, bytes.length).set(bytes);
    this.turn(frames);
    this.k.x.decode(this.format, this.raw, this.channels, frames, this.planar.table);
    return frames;
  }

  /**
   * Encodes the first `frames` of the channels in `table`. The returned bytes are a view that the next
   * call overwrites; `overs` counts samples held at full scale.
   */
  encode(table: number, frames: number, dither = false): { bytes: Uint8Array; overs: number } {
    const overs = this.k.x.encode(this.format, table, this.channels, frames, this.raw, dither ? this.ditherState : 0);
    this.turn(frames);
    return { bytes: this.k.bytes(this.raw, frames * this.channels * bytesPerSample(this.format)), overs };
  }

  private turn(frames: number): void {
    if (this.bigEndian) this.k.x.swapBytes(this.raw, frames * this.channels, bytesPerSample(this.format));
  }

  free(): void {
    this.k.x.release(this.raw);
    this.k.x.release(this.ditherState);
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
