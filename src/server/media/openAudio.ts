import { type AudioStream, isFlac, openPcm, STREAM_SPAN, type ByteSource } from '@/core/files';
import { ChannelSet, type Kernels } from '@/core/kernels';
import { decodeFlac, flacInfo } from './flac';
import { flacBext } from './flacBext';

/** Opens WAV, RF64, BW64, AIFF, AIFF-C or FLAC. Throws FileFault when it is none of them. */
export async function openAudio(k: Kernels, source: ByteSource): Promise<AudioStream> {
  return isFlac(await source.read(0, 4)) ? openFlac(k, source) : openPcm(k, source);
}

async function openFlac(k: Kernels, source: ByteSource): Promise<AudioStream> {
  const { channels, sampleRate, bits, frames } = await flacInfo(source);
  const bext = await flacBext(source);
  return {
    kind: 'FLAC',
    format: bits <= 16 ? 16 : 24,
    channels,
    sampleRate,
    mask: 0,
    frames,
    info: null,
    bext,
    notes: [],
    async *blocks(span = STREAM_SPAN) {
      const set = new ChannelSet(k, channels, span);
      try {
        for await (const planar of decodeFlac(source)) {
          for (let at = 0; at < planar[0]!.length; at += span) {
            const n = Math.min(span, planar[0]!.length - at);
            planar.forEach((c, i) => set.view(i, n).set(c.subarray(at, at + n)));
            yield { set, frames: n };
          }
        }
      } finally {
        set.free();
      }
    },
  };
}
