import { parseAiff } from './aiff';
import { ascii, type AudioInfo } from './audioInfo';
import { FileFault, UnreadForm, type ByteSource } from './byteSource';
import { parseWav } from './wavParse';

/** Whether a file is FLAC by its first bytes; its samples come out of a decoder, see the media of the server. */
export const isFlac = (head: Uint8Array): boolean => ascii(head, 0, 4) === 'fLaC';

/**
 * Reads the structure of a WAV, RF64, BW64, AIFF or AIFF-C file. Throws FileFault naming the offset and the fault; not before
 * it has looked twice: what a session says of a take is written into its header while somebody may be reading it chunk by
 * chunk, and the pieces of two headers are none.
 */
export async function parseAudio(source: ByteSource): Promise<AudioInfo> {
  try {
    return await structureOf(source);
  } catch (error) {
    if (error instanceof UnreadForm || !(error instanceof FileFault)) throw error;
    return structureOf(source);
  }
}

async function structureOf(source: ByteSource): Promise<AudioInfo> {
  const head = await source.read(0, 12);
  const id = ascii(head, 0, 4);
  if (id === 'FORM') return parseAiff(source);
  if (id === 'RIFF' || id === 'RF64' || id === 'BW64' || head.length < 12) return parseWav(source);
  throw new UnreadForm(
    `This is no audio file we read: byte 0 starts with ${JSON.stringify(id)}. WAV, RF64, BW64, AIFF and FLAC are read.`,
  );
}
