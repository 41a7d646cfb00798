import { type AdmBed, decodeAdm } from './adm';
import { ascii, type AudioInfo } from './audioInfo';
import { decodeBext, type Bext } from './bext';
import { FileFault, UnreadForm, type ByteSource } from './byteSource';
import { decodeIxml, type Ixml } from './ixml';
import { decodeCue, decodeLabels, markersOf } from './markers';
import { bytesPerSample, SampleFormat } from './sampleFormat';

const LARGEST_TEXT_CHUNK = 1 << 20;
const MOST_CHUNKS = 4096;
const UNFINISHED = 0xffffffff;

type Format = Pick<AudioInfo, 'format' | 'channels' | 'sampleRate' | 'mask'> & { block: number };

/** What the chunks of one file have told so far. */
class Found {
  fmt: Format | null = null;
  longBytes: number | null = null;
  data: { offset: number; size: number } | null = null;
  bext: Bext | null = null;
  ixml: Ixml | null = null;
  cue = new Map<number, number>();
  labels = new Map<number, string>();
  chna = new Uint8Array(0);
  axml = '';
  readonly notes: string[] = [];
}

/**
 * Reads the structure of a WAV, RF64 or BW64 file (EBU Tech 3285 and 3306, ITU-R BS.2088). Throws FileFault
 * naming the offset and the fault when it cannot be one; a file cut short, or one whose header was never
 * finished, is read as far as it goes, with a note.
 */
export async function parseWav(source: ByteSource): Promise<AudioInfo> {
  const head = await source.read(0, 12);
  if (head.length < 12) throw new FileFault(`This is no audio file: it ends after ${source.size} bytes.`);
  const kind = ascii(head, 0, 4);
  if ((kind !== 'RIFF' && kind !== 'RF64' && kind !== 'BW64') || ascii(head, 8, 4) !== 'WAVE') {
    throw new FileFault(
      `This is no WAV file: byte 0 starts with ${JSON.stringify(ascii(head, 0, 4))} where "RIFF", "RF64" or "BW64" should stand.`,
    );
  }
  const found = new Found();
  let at = 12;
  for (let chunks = 0; at + 8 <= source.size && chunks < MOST_CHUNKS; chunks++) {
    const h = await source.read(at, 8);
    if (h.length < 8) break;
    const id = ascii(h, 0, 4);
    let size = new DataView(h.buffer, h.byteOffset, 8).getUint32(4, true);
    if (id === 'data') {
      if (found.data) break;
      size = sizeOfData(source, found, at, size);
      found.data = { offset: at + 8, size };
    } else await readChunk(source, found, id, at, size);
    at += 8 + size + (size & 1);
  }
  const { fmt, data } = found;
  if (!fmt || !data) {
    throw new FileFault(
      `No samples were found: the chunks end at byte ${Math.min(at, source.size)} of ${source.size} without a "data" chunk.`,
    );
  }
  const { block, ...format } = fmt;
  let adm: AdmBed | null = null;
  if (found.chna.length > 0) adm = decodeAdm(found.chna, found.axml, format.channels);
  return {
    kind,
    ...format,
    bigEndian: false,
    frames: Math.floor(data.size / block),
    dataOffset: data.offset,
    bext: found.bext,
    ixml: found.ixml,
    markers: markersOf(found.cue, found.labels),
    adm,
    notes: found.notes,
  };
}

function sizeOfData(source: ByteSource, found: Found, at: number, said: number): number {
  if (!found.fmt)
    throw new FileFault(`The samples start at byte ${at} but no "fmt " chunk before them says how to read them.`);
  const there = source.size - at - 8;
  let size = said;
  if (size === UNFINISHED && found.longBytes) size = found.longBytes;
  // Recorders write the length last: zero, or all ones, is a header that was never finished.
  if ((said === 0 || said === UNFINISHED) && size === said && there > 0) {
    found.notes.push(
      `The header was never finished; the ${there} bytes up to the end of the file are taken as samples.`,
    );
    return there;
  }
  if (size > there) {
    found.notes.push(`The file ends ${size - there} bytes early; what is there is kept.`);
    return there;
  }
  return size;
}

async function readChunk(source: ByteSource, found: Found, id: string, at: number, size: number): Promise<void> {
  if (id === 'fmt ') {
    found.fmt = readFmt(await source.read(at + 8, Math.min(size, 64)), at);
  } else if (id === 'ds64') {
    const b = await source.read(at + 8, 28);
    if (b.length < 16) throw new FileFault(`The "ds64" chunk at byte ${at} is cut short.`);
    const v = new DataView(b.buffer, b.byteOffset, b.length);
    found.longBytes = v.getUint32(8, true) + v.getUint32(12, true) * 2 ** 32;
  } else if (size <= LARGEST_TEXT_CHUNK) {
    const content = () => source.read(at + 8, size);
    if (id === 'bext') found.bext = decodeBext(await content());
    else if (id === 'iXML') {
      found.ixml = decodeIxml(new TextDecoder().decode(await content()));
      if (!found.ixml) found.notes.push(`The iXML chunk at byte ${at} cannot be read; it was left out.`);
    } else if (id === 'cue ') found.cue = decodeCue(await content());
    else if (id === 'LIST') for (const [k, v] of decodeLabels(await content())) found.labels.set(k, v);
    else if (id === 'chna') found.chna = new Uint8Array(await content());
    else if (id === 'axml') found.axml = new TextDecoder().decode(await content());
  }
}

const INTEGERS: Record<number, SampleFormat> = { 8: 8, 16: 16, 24: 24, 32: 32 };
const FLOATS: Record<number, SampleFormat> = { 32: 132, 64: 164 };

function readFmt(b: Uint8Array, at: number): Format {
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
  const format = tag === 3 ? FLOATS[bits] : tag === 1 ? INTEGERS[bits] : undefined;
  if (format === undefined)
    throw new UnreadForm(
      `The file's samples (code ${tag}, ${bits} bit, at byte ${at}) are not PCM of 8, 16, 24 or 32 bit or float.`,
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
