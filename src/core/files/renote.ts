import { type AudioInfo } from './audioInfo';
import { encodeIxml, type Ixml } from './ixml';
import { bytesPerSample } from './sampleFormat';
import { DATA_OFFSET, wavHeader } from './wavHeader';

/**
 * The header of a WAV of ours (`size` bytes long) with other notes in its iXML; the samples stay where they are. Null
 * when it says so already, or is no file whose header is ours to write.
 */
export function renotedHeader(
  info: AudioInfo,
  size: number,
  notes: Pick<Ixml, 'scene' | 'note' | 'circled'>,
): Uint8Array | null {
  const { ixml, dataOffset, kind } = info;
  if (!ixml || dataOffset !== DATA_OFFSET || info.bigEndian) return null;
  const next = encodeIxml({ ...ixml, ...notes });
  if (next === encodeIxml(ixml)) return null;
  return wavHeader({
    ...info,
    bext: info.bext ?? undefined,
    ixml: next,
    bw64: kind === 'BW64',
    trailerBytes: Math.max(0, size - DATA_OFFSET - info.frames * info.channels * bytesPerSample(info.format)),
  });
}
