import { decodeBext, encodeBext, type Bext, type ByteSource } from '@/core/files';

/** Block types (RFC 9639, 8.1). */
const APPLICATION = 2;
const LAST = 0x80;
/** "riff": chunks of the WAV that a FLAC file was made from, as the reference encoder keeps them (RFC 9639, 12.2). */
const RIFF = 'riff';
const MOST_BLOCKS = 128;

const letters = (b: Uint8Array, at: number): string => String.fromCharCode(...b.subarray(at, at + 4));

/** An APPLICATION block, not the last one, that holds a Broadcast WAV's extension chunk. */
export function bextBlock(bext: Bext): Uint8Array {
  const chunk = encodeBext(bext);
  const padded = chunk.length + (chunk.length % 2);
  const out = new Uint8Array(4 + 4 + 8 + padded);
  const v = new DataView(out.buffer);
  v.setUint32(0, (APPLICATION << 24) | (out.length - 4));
  const put = (text: string, at: number) => [...text].forEach((c, i) => (out[at + i] = c.charCodeAt(0)));
  put(RIFF, 4);
  put('bext', 8);
  v.setUint32(12, chunk.length, true);
  out.set(chunk, 16);
  return out;
}

/** The extension chunk that a FLAC file carries; null where there is none. */
export async function flacBext(source: ByteSource): Promise<Bext | null> {
  let at = 4;
  for (let n = 0; n < MOST_BLOCKS; n++) {
    const head = await source.read(at, 16);
    if (head.length < 4) return null;
    const length = (head[1]! << 16) | (head[2]! << 8) | head[3]!;
    if (
      (head[0]! & 0x7f) === APPLICATION &&
      head.length === 16 &&
      letters(head, 4) === RIFF &&
      letters(head, 8) === 'bext'
    ) {
      const size = new DataView(head.buffer, head.byteOffset).getUint32(12, true);
      if (size <= length - 12) return decodeBext(Uint8Array.from(await source.read(at + 16, size)));
    }
    if (head[0]! & LAST) return null;
    at += 4 + length;
  }
  return null;
}
