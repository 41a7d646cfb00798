import { decodeBext, type Bext } from './bext';
import { FileFault, type ByteSource } from './byteSource';
import { bytesPerSample, SampleFormat } from './sampleFormat';

export interface WavInfo {
  kind: 'RIFF' | 'RF64' | 'BW64';
  format: SampleFormat;
  channels: number;
  sampleRate: number;
  frames: number;
  mask: number;
  dataOffset: number;
  bext: Bext | null;
  ixml: string | null;
  /** What was not as it should be, though the samples can be read. */
  notes: string[];
}

const ascii = (b: Uint8Array, at: number, n: number): string => String.fromCharCode(...b.subarray(at, at + n));
const LARGEST_TEXT_CHUNK = 1 << 20;

/**
 * Reads the structure of a WAV, RF64 or BW64 file. Throws FileFault naming the offset and the fault when
 * it cannot be one; a file cut short is read as far as it goes, with a note.
 */
export async function parseWav(source: ByteSource): Promise<WavInfo> {
  const head = await source.read(0, 12);
  if (head.length < 12) throw new FileFault(`This is no audio file: it ends after ${source.size} bytes.`);
  const kind = ascii(head, 0, 4);
  if ((kind !== 'RIFF' && kind !== 'RF64' && kind !== 'BW64') || ascii(head, 8, 4) !== 'WAVE') {
    throw new FileFault(
      `This is no WAV file: byte 0 starts with ${JSON.stringify(ascii(head, 0, 4))} where "RIFF", "RF64" or "BW64" should stand.`,
    );
  }
  const notes: string[] = [];
  let fmt: { format: SampleFormat; channels: number; sampleRate: number; mask: number; block: number } | null = null;
  let long: { dataBytes: number } | null = null;
  let bext: Bext | null = null;
  let ixml: string | null = null;
  let at = 12;
  for (let chunks = 0; at + 8 <= source.size && chunks < 4096; chunks++) {
    const h = await source.read(at, 8);
    if (h.length < 8) break;
    const id = ascii(h, 0, 4);
    let size = new DataView(h.buffer, h.byteOffset, 8).getUint32(4, true);
    if (id === 'data') {
      if (!fmt)
        throw new FileFault(`The samples start at byte ${at} but no "fmt " chunk before them says how to read them.`);
      if (size === 0xffffffff && long) size = long.dataBytes;
      const there = source.size - at - 8;
      if (size > there) {
        notes.push(`The file ends ${size - there} bytes early; what is there is kept.`);
        size = there;
      }
      return { kind, ...fmt, frames: Math.floor(size / fmt.block), dataOffset: at + 8, bext, ixml, notes };
    }
    if (id === 'fmt ') {
      fmt = readFmt(await source.read(at + 8, Math.min(size, 64)), at);
    } else if (id === 'ds64') {
      const b = await source.read(at + 8, 28);
      if (b.length < 16) throw new FileFault(`The "ds64" chunk at byte ${at} is cut short.`);
      const v = new DataView(b.buffer, b.byteOffset, b.length);
      long = { dataBytes: v.getUint32(8, true) + v.getUint32(12, true) * 2 ** 32 };
    } else if (id === 'bext' && size <= LARGEST_TEXT_CHUNK) {
      bext = decodeBext(await source.read(at + 8, size));
    } else if (id === 'iXML' && size <= LARGEST_TEXT_CHUNK) {
      ixml = new TextDecoder().decode(await source.read(at + 8, size));
    }
    at += 8 + size + (size & 1);
  }
  throw new FileFault(
    `No samples were found: the chunks end at byte ${Math.min(at, source.size)} of ${source.size} without a "data" chunk.`,
  );
}

function readFmt(b: Uint8Array, at: number) {
  if (b.length < 16) throw new FileFault(`The "fmt " chunk at byte ${at} is cut short.`);
  const v = new DataView(b.buffer, b.byteOffset, b.length);
  let tag = v.getUint16(0, true);
  const channels = v.getUint16(2, true);
  const sampleRate = v.getUint32(4, true);
  const block = v.getUint16(12, true);
  const bits = v.getUint16(14, true);
  let mask = 0;
  if (tag === 0xfffe) {
    if (b.length < 40) throw new FileFault(`The extensible "fmt " chunk at byte ${at} is cut short.`);
    mask = v.getUint32(20, true);
    tag = v.getUint16(24, true);
  }
  const format =
    tag === 3
      ? bits === 32
        ? SampleFormat.float32
        : bits === 64
          ? SampleFormat.float64
          : null
      : tag === 1
        ? bits === 16
          ? SampleFormat.int16
          : bits === 24
            ? SampleFormat.int24
            : bits === 32
              ? SampleFormat.int32
              : null
        : null;
  if (format === null)
    throw new FileFault(
      `The file's samples (code ${tag}, ${bits} bit, at byte ${at}) are not PCM of 16, 24 or 32 bit or float.`,
    );
  if (channels < 1 || channels > 128)
    throw new FileFault(`The "fmt " chunk at byte ${at} claims ${channels} channels.`);
  if (sampleRate < 1000 || sampleRate > 768000)
    throw new FileFault(`The "fmt " chunk at byte ${at} claims a rate of ${sampleRate} Hz.`);
  if (block !== channels * bytesPerSample(format))
    throw new FileFault(
      `The "fmt " chunk at byte ${at} contradicts itself: ${block} bytes a frame for ${channels} channels of ${bits} bit.`,
    );
  return { format, channels, sampleRate, mask, block };
}
