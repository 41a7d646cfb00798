import type { ChannelSet, Kernels } from '@/core/kernels';
import type { AudioInfo } from './audioInfo';
import type { Bext } from './bext';
import type { ByteSource } from './byteSource';
import { FrameCodec } from './decodeFrames';
import { parseAudio } from './parseAudio';
import type { SampleFormat } from './sampleFormat';
import { spans } from './spans';

/** Most frames of one block of a stream. */
export const STREAM_SPAN = 65_536;

/** A sound file as a stream of planar samples in the kernels' memory, whatever kind it is. */
export interface AudioStream {
  kind: AudioInfo['kind'] | 'FLAC';
  format: SampleFormat;
  channels: number;
  sampleRate: number;
  mask: number;
  /** As far as the file says; a FLAC may not (0). */
  frames: number;
  /** What a WAV or AIFF says besides; null for FLAC. */
  info: AudioInfo | null;
  /** Broadcast extension, where the file has one. */
  bext: Bext | null;
  notes: string[];
  /** Blocks of at most `span` frames (STREAM_SPAN unless told); what `set` holds is valid until the next one. */
  blocks(span?: number): AsyncGenerator<{ set: ChannelSet; frames: number }>;
}

/** Samples of all channels that stand in a block (32 MB): a file may claim to have thousands of channels. */
const MOST_SAMPLES = 8 << 20;

/** Frames of a block of so many channels, at most `most`. */
const spanOf = (channels: number, most: number): number =>
  Math.max(1, Math.min(most, Math.floor(MOST_SAMPLES / channels)));

/** Opens WAV, RF64, BW64, AIFF or AIFF-C. Throws FileFault when it is none of them. */
export async function openPcm(k: Kernels, source: ByteSource): Promise<AudioStream> {
  const info = await parseAudio(source);
  return {
    ...info,
    info,
    bext: info.bext ?? null,
    async *blocks(most = STREAM_SPAN) {
      const span = spanOf(info.channels, most);
      const codec = new FrameCodec(k, info.format, info.channels, span, info.bigEndian);
      try {
        for await (const bytes of spans(source, info, span)) yield { set: codec.planar, frames: codec.decode(bytes) };
      } finally {
        codec.free();
      }
    },
  };
}
