import { createRequire } from 'node:module';
import { FLACDecoder } from '@wasm-audio-decoders/flac';
import { FileFault, type Bext, type ByteSink, type ByteSource } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { bextBlock } from './flacBext';

const STREAMINFO_AT = 8;
/** "fLaC" and the whole STREAMINFO block. */
const FIRST_BLOCKS = 42;
const READ = 1 << 16;
const MOST_CHANNELS = 8;

export interface FlacInfo {
  channels: number;
  sampleRate: number;
  bits: number;
  /** 0 when the file does not say. */
  frames: number;
}

/** Reads STREAMINFO (RFC 9639, 8.2). Throws FileFault when it is not where it must be. */
export async function flacInfo(source: ByteSource): Promise<FlacInfo> {
  const b = await source.read(0, 42);
  if (b.length < 42 || (b[4]! & 0x7f) !== 0) throw new FileFault('The FLAC file has no STREAMINFO block at byte 4.');
  const v = new DataView(b.buffer, b.byteOffset + STREAMINFO_AT, 34);
  const packed = v.getUint32(10);
  const info = {
    sampleRate: packed >>> 12,
    channels: ((packed >>> 9) & 7) + 1,
    bits: (((packed >>> 4) & 31) | 0) + 1,
    frames: (packed & 15) * 2 ** 32 + v.getUint32(14),
  };
  if (info.sampleRate < 1000)
    throw new FileFault(`The STREAMINFO block at byte 4 claims a rate of ${info.sampleRate} Hz.`);
  return info;
}

/** Decodes a FLAC file piece by piece: planar samples as they come. Throws FileFault naming the place of damage. */
export async function* decodeFlac(source: ByteSource): AsyncGenerator<Float32Array[]> {
  const { channels, frames, bits } = await flacInfo(source);
  const steps = 2 ** (bits - 1);
  const decoder = new FLACDecoder();
  await decoder.ready;
  let made = 0;
  try {
    for (let at = 0; at < source.size; at += READ) {
      const bytes = await source.read(at, READ);
      const last = at + READ >= source.size;
      const parts = [await decoder.decode(bytes), ...(last ? [await decoder.flush()] : [])];
      for (const { channelData, errors } of parts) {
        if (errors.length > 0)
          throw new FileFault(
            `The FLAC file is damaged between byte ${at} and ${at + bytes.length}: ${errors[0]!.message.split(';')[0]}`,
          );
        if (!channelData[0]?.length) continue;
        made += channelData[0].length;
        // The package divides by the largest sample; here full scale is one step more. Rounding finds the sample again.
        yield channelData.slice(0, channels).map((c) => c.map((v) => Math.round(v * (steps - 1)) / steps));
      }
    }
    if (made === 0 || (frames > 0 && made < frames))
      throw new FileFault(`The FLAC file ends early: ${made} of ${frames} frames could be read.`);
  } finally {
    decoder.free();
  }
}

type Flac = import('libflacjs').Flac;

let library: Promise<Flac> | null = null;

function flacLibrary(): Promise<Flac> {
  library ??= new Promise((resolve) => {
    const flac = (createRequire(import.meta.url)('libflacjs') as (variant: string) => Flac)('min');
    if (flac.isReady()) resolve(flac);
    else flac.on('ready', () => resolve(flac));
  });
  return library;
}

export interface FlacSpec {
  channels: number;
  sampleRate: number;
  bits: 16 | 24;
  /** What a Broadcast WAV says of itself: time reference, origin, history. */
  bext?: Bext;
  /** Triangular noise of two steps before rounding. */
  dither?: boolean;
}

/** Writes a FLAC file as its samples come. */
export class FlacWriter {
  private readonly encoder: number;
  private readonly pending: Uint8Array[] = [];
  private written = 0;
  /** The beginning of the file, until its first block is whole: what goes along is put behind it. */
  private head: Uint8Array | null = new Uint8Array(0);
  private seed = 0x9e3779b9;
  private frames = 0;
  private overs = 0;
  private total: { min_framesize: number; max_framesize: number; md5sum: string } | null = null;

  /** Throws RangeError for more than eight channels. */
  static async create(k: Kernels, sink: ByteSink, spec: FlacSpec): Promise<FlacWriter> {
    return new FlacWriter(await flacLibrary(), k, sink, spec);
  }

  private constructor(
    private readonly flac: Flac,
    private readonly k: Kernels,
    private readonly sink: ByteSink,
    private readonly spec: FlacSpec,
  ) {
    if (spec.channels > MOST_CHANNELS)
      throw new RangeError(`FLAC holds up to ${MOST_CHANNELS} channels, not ${spec.channels}; choose Broadcast WAV`);
    this.encoder = this.flac.create_libflac_encoder(spec.sampleRate, spec.channels, spec.bits, 5, 0, false);
    this.flac.init_encoder_stream(
      this.encoder,
      (bytes) => void this.pending.push(Uint8Array.from(bytes)),
      (meta) => (this.total = (meta ?? null) as typeof this.total),
    );
  }

  async write(table: number, n: number): Promise<void> {
    const { channels, bits } = this.spec;
    const full = 2 ** (bits - 1);
    const mixed = new Int32Array(n * channels);
    for (let c = 0; c < channels; c++) {
      const from = this.k.f32(this.k.heapU32[(table >> 2) + c]!, n);
      for (let i = 0; i < n; i++) {
        const noise = this.spec.dither ? this.random() - this.random() : 0;
        const v = Math.round(from[i]! * full + noise);
        if (v >= full || v < -full) this.overs++;
        mixed[i * channels + c] = Math.max(-full, Math.min(full - 1, v));
      }
    }
    if (!this.flac.FLAC__stream_encoder_process_interleaved(this.encoder, mixed, n))
      throw new Error('the FLAC encoder stopped');
    this.frames += n;
    await this.flush();
  }

  private async flush(): Promise<void> {
    for (const bytes of this.pending.splice(0)) await this.put(this.withBext(bytes));
  }

  private async put(bytes: Uint8Array): Promise<void> {
    await this.sink.put(this.written, bytes);
    this.written += bytes.length;
  }

  // Behind STREAMINFO, which comes first and is never the last block here.
  private withBext(bytes: Uint8Array): Uint8Array {
    if (!this.head) return bytes;
    const all = new Uint8Array(this.head.length + bytes.length);
    all.set(this.head);
    all.set(bytes, this.head.length);
    if (all.length < FIRST_BLOCKS) {
      this.head = all;
      return new Uint8Array(0);
    }
    this.head = null;
    const block = this.spec.bext ? bextBlock(this.spec.bext) : new Uint8Array(0);
    const out = new Uint8Array(all.length + block.length);
    out.set(all.subarray(0, FIRST_BLOCKS));
    out.set(block, FIRST_BLOCKS);
    out.set(all.subarray(FIRST_BLOCKS), FIRST_BLOCKS + block.length);
    return out;
  }

  // Uniform in [0, 1), repeatable (xorshift32; Marsaglia 2003).
  private random(): number {
    let s = this.seed;
    s ^= s << 13;
    s ^= s >>> 17;
    s ^= s << 5;
    this.seed = s;
    return (s >>> 0) / 2 ** 32;
  }

  /** Completes the file: length and checksum stand in its first block. */
  async finish(): Promise<{ frames: number; overs: number }> {
    this.flac.FLAC__stream_encoder_finish(this.encoder);
    await this.flush();
    this.flac.FLAC__stream_encoder_delete(this.encoder);
    if (this.total) await this.sink.put(STREAMINFO_AT, this.streamInfo(this.total));
    return { frames: this.frames, overs: this.overs };
  }

  private streamInfo(total: { min_framesize: number; max_framesize: number; md5sum: string }): Uint8Array {
    const { sampleRate, channels, bits } = this.spec;
    const out = new Uint8Array(34);
    const v = new DataView(out.buffer);
    v.setUint16(0, 4096);
    v.setUint16(2, 4096);
    v.setUint32(4, ((total.min_framesize & 0xffffff) << 8) | ((total.max_framesize >> 16) & 0xff));
    v.setUint16(8, total.max_framesize & 0xffff);
    v.setUint32(
      10,
      ((sampleRate << 12) | ((channels - 1) << 9) | ((bits - 1) << 4) | Math.floor(this.frames / 2 ** 32)) >>> 0,
    );
    v.setUint32(14, this.frames % 2 ** 32);
    for (let i = 0; i < 16; i++) out[18 + i] = parseInt(total.md5sum.slice(2 * i, 2 * i + 2), 16) || 0;
    return out;
  }
}
