import { ascii, type AudioInfo, type FileMarker } from './audioInfo';
import { FileFault, UnreadForm, type ByteSource } from './byteSource';
import { readExtended, writeExtended } from './extended80';
import { joined } from './markers';
import { bitsOf, bytesPerSample, isFloat, type SampleFormat } from './sampleFormat';

const LARGEST_TEXT_CHUNK = 1 << 20;
const MOST_CHUNKS = 4096;
const INTEGERS: Record<number, SampleFormat> = { 8: 9, 16: 16, 24: 24, 32: 32 };

interface Common {
  channels: number;
  frames: number;
  format: SampleFormat;
  bigEndian: boolean;
  sampleRate: number;
}

/**
 * Reads the structure of an AIFF or AIFF-C file ("Audio Interchange File Format", 1989, and its draft for
 * AIFF-C, 1991): big-endian integers of 8 to 32 bit, "sowt" (little-endian), "fl32" and "fl64". Throws FileFault naming
 * the offset and the fault; a file cut short is read as far as it goes, with a note.
 */
export async function parseAiff(source: ByteSource): Promise<AudioInfo> {
  const head = await source.read(0, 12);
  const form = head.length === 12 ? ascii(head, 8, 4) : '';
  if (ascii(head, 0, 4) !== 'FORM' || (form !== 'AIFF' && form !== 'AIFC'))
    throw new FileFault('This is no AIFF file: byte 0 should start with "FORM", byte 8 with "AIFF" or "AIFC".');
  const notes: string[] = [];
  let common: Common | null = null;
  let data: { offset: number; size: number; at: number } | null = null;
  let markers: FileMarker[] = [];
  let at = 12;
  for (let chunks = 0; at + 8 <= source.size && chunks < MOST_CHUNKS; chunks++) {
    const h = await source.read(at, 8);
    if (h.length < 8) break;
    const id = ascii(h, 0, 4);
    const size = new DataView(h.buffer, h.byteOffset, 8).getUint32(4);
    if (id === 'COMM') common = readCommon(await source.read(at + 8, Math.min(size, 64)), at, form === 'AIFC');
    else if (id === 'MARK' && size <= LARGEST_TEXT_CHUNK) markers = readMarkers(await source.read(at + 8, size));
    else if (id === 'SSND') {
      const b = await source.read(at + 8, 8);
      if (b.length < 8) throw new FileFault(`The "SSND" chunk at byte ${at} is cut short.`);
      const skip = new DataView(b.buffer, b.byteOffset, 8).getUint32(0);
      if (at + 16 + skip > source.size)
        throw new FileFault(
          `The "SSND" chunk at byte ${at} says its samples start ${skip} bytes on, behind the file's end.`,
        );
      data = { offset: at + 16 + skip, size: size - 8 - skip, at };
    }
    at += 8 + size + (size & 1);
  }
  if (!common || !data)
    throw new FileFault(
      `No samples were found: the chunks end at byte ${Math.min(at, source.size)} of ${source.size} without ${common ? 'an "SSND"' : 'a "COMM"'} chunk.`,
    );
  const block = common.channels * bytesPerSample(common.format);
  const there = Math.max(0, Math.min(data.size, source.size - data.offset));
  let frames = Math.floor(there / block);
  if (common.frames > frames)
    notes.push(
      frames * block + block <= data.size
        ? `The file ends early: ${common.frames - frames} of ${common.frames} frames are missing; what is there is kept.`
        : `The "COMM" chunk claims ${common.frames} frames, the samples at byte ${data.at} hold ${frames}; those are kept.`,
    );
  else frames = common.frames;
  return {
    kind: form === 'AIFC' ? 'AIFF-C' : 'AIFF',
    ...common,
    frames,
    mask: 0,
    dataOffset: data.offset,
    bext: null,
    ixml: null,
    markers,
    adm: null,
    notes,
  };
}

function readCommon(b: Uint8Array, at: number, compressed: boolean): Common {
  if (b.length < (compressed ? 22 : 18)) throw new FileFault(`The "COMM" chunk at byte ${at} is cut short.`);
  const v = new DataView(b.buffer, b.byteOffset, b.length);
  const channels = v.getUint16(0);
  const bits = v.getUint16(6);
  const sampleRate = readExtended(b, 8);
  const kind = compressed ? ascii(b, 18, 4) : 'NONE';
  // Odd word lengths stand in the next whole number of bytes, at their upper end.
  const integer = INTEGERS[Math.ceil(bits / 8) * 8];
  const format: SampleFormat | undefined =
    kind === 'fl32' || kind === 'FL32'
      ? 132
      : kind === 'fl64' || kind === 'FL64'
        ? 164
        : kind === 'NONE' || kind === 'twos' || kind === 'sowt'
          ? integer
          : kind === 'in24'
            ? 24
            : kind === 'in32'
              ? 32
              : undefined;
  if (format === undefined)
    throw new UnreadForm(
      `The file's samples (${JSON.stringify(kind)}, ${bits} bit, at byte ${at}) are not PCM of 8 to 32 bit or float.`,
    );
  if (channels < 1 || channels > 128)
    throw new FileFault(`The "COMM" chunk at byte ${at} claims ${channels} channels.`);
  if (!(sampleRate >= 1000 && sampleRate <= 768000))
    throw new FileFault(`The "COMM" chunk at byte ${at} claims a rate of ${sampleRate} Hz.`);
  return {
    channels,
    frames: v.getUint32(2),
    format,
    bigEndian: kind !== 'sowt' && bytesPerSample(format) > 1,
    sampleRate: Math.round(sampleRate),
  };
}

function readMarkers(b: Uint8Array): FileMarker[] {
  const out: FileMarker[] = [];
  if (b.length < 2) return out;
  const v = new DataView(b.buffer, b.byteOffset, b.length);
  const count = v.getUint16(0);
  for (let i = 0, at = 2; i < count && at + 7 <= b.length; i++) {
    const length = b[at + 6]!;
    out.push({ at: v.getUint32(at + 2), label: new TextDecoder().decode(b.subarray(at + 7, at + 7 + length)) });
    at += 7 + length + ((length + 1) & 1);
  }
  return out.sort((a, c) => a.at - c.at);
}

export interface AiffSpec {
  format: SampleFormat;
  channels: number;
  sampleRate: number;
  frames: number;
  markers?: readonly FileMarker[];
  /** AIFF-C with little-endian samples. */
  littleEndian?: boolean;
}

/** Everything before the samples. Throws RangeError when the file would pass the 4 GB an AIFF can hold. */
export function aiffHeader(spec: AiffSpec): Uint8Array {
  const compressed = isFloat(spec.format) || spec.littleEndian === true;
  const dataBytes = spec.frames * spec.channels * bytesPerSample(spec.format);
  const text = (s: string) => new TextEncoder().encode(s);
  const chunk = (id: string, content: Uint8Array) => {
    const out = new Uint8Array(8 + content.length + (content.length & 1));
    out.set(text(id));
    new DataView(out.buffer).setUint32(4, content.length);
    out.set(content, 8);
    return out;
  };
  const comm = new Uint8Array(18);
  const v = new DataView(comm.buffer);
  v.setUint16(0, spec.channels);
  v.setUint32(2, spec.frames);
  v.setUint16(6, bitsOf(spec.format));
  comm.set(writeExtended(spec.sampleRate), 8);
  const kind = spec.littleEndian ? 'sowt' : spec.format === 132 ? 'fl32' : 'fl64';
  const parts = [
    compressed ? chunk('FVER', Uint8Array.of(0xa2, 0x80, 0x51, 0x40)) : new Uint8Array(0),
    chunk('COMM', compressed ? joined([comm, text(kind), Uint8Array.of(0, 0)]) : comm),
    spec.markers?.length ? chunk('MARK', markersChunk(spec.markers)) : new Uint8Array(0),
  ];
  const before = joined(parts);
  const form = 4 + before.length + 16 + dataBytes + (dataBytes & 1);
  if (form > 0xffffffff) throw new RangeError('an AIFF file cannot be longer than 4 GB; choose Broadcast WAV');
  const head = new Uint8Array(12);
  head.set(text('FORM'));
  new DataView(head.buffer).setUint32(4, form);
  head.set(text(compressed ? 'AIFC' : 'AIFF'), 8);
  const ssnd = new Uint8Array(16);
  ssnd.set(text('SSND'));
  new DataView(ssnd.buffer).setUint32(4, 8 + dataBytes);
  return joined([head, before, ssnd]);
}

function markersChunk(markers: readonly FileMarker[]): Uint8Array {
  const count = new Uint8Array(2);
  new DataView(count.buffer).setUint16(0, markers.length);
  return joined([
    count,
    ...markers.map((m, i) => {
      const label = new TextEncoder().encode(m.label).subarray(0, 255);
      const out = new Uint8Array(7 + label.length + ((label.length + 1) & 1));
      const v = new DataView(out.buffer);
      v.setUint16(0, i + 1);
      v.setUint32(2, m.at);
      out[6] = label.length;
      out.set(label, 7);
      return out;
    }),
  ]);
}
