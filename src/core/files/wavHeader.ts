import { encodeBext, type Bext } from './bext';
import type { Layout } from '@/core/speakers';
import { encodeAxml, encodeChna } from './adm';
import { encodeObjectsAxml, encodeObjectsChna, type AdmObject } from './admObjects';
import type { FileMarker } from './audioInfo';
import { encodeMarkers, joined } from './markers';
import { bitsOf, bytesPerSample, isFloat, type SampleFormat } from './sampleFormat';

/** Every file we write has its samples from here on, so that its header can be written last. */
export const DATA_OFFSET = 8192;

const UINT32_MAX = 0xffffffff;
const GUID_TAIL = [0x00, 0x00, 0x00, 0x00, 0x10, 0x00, 0x80, 0x00, 0x00, 0xaa, 0x00, 0x38, 0x9b, 0x71];

export interface WavSpec {
  format: SampleFormat;
  channels: number;
  sampleRate: number;
  frames: number;
  /** Channel mask of WAVE_FORMAT_EXTENSIBLE; used beyond two channels. */
  mask: number;
  bext?: Bext;
  ixml?: string;
  /** Bytes of chunks behind the samples (see wavTrailer). */
  trailerBytes?: number;
  /** BW64 in place of RIFF or RF64: for files that carry an ADM bed (ITU-R BS.2088). */
  bw64?: boolean;
}

/** What stands behind the samples: it may be long, and its place needs not be known beforehand. */
export interface WavTrailer {
  markers?: readonly FileMarker[];
  /** A bed described with the Audio Definition Model. */
  bed?: { layout: Layout; name: string; seconds: number; sampleRate: number };
  /** Objects described with it; in the place of a bed. */
  objects?: { objects: readonly AdmObject[]; name: string; seconds: number; sampleRate: number };
}

/** Chunks behind `dataBytes` bytes of samples, with the pad byte that an odd number of them needs. */
export function wavTrailer({ markers = [], bed, objects }: WavTrailer, dataBytes: number): Uint8Array {
  const text = new TextEncoder();
  const chunk = (id: string, content: Uint8Array) => {
    const out = new Uint8Array(8 + content.length + (content.length & 1));
    out.set(text.encode(id));
    new DataView(out.buffer).setUint32(4, content.length, true);
    out.set(content, 8);
    return out;
  };
  return joined([
    new Uint8Array(dataBytes & 1),
    encodeMarkers(markers),
    ...(bed
      ? [
          chunk('chna', encodeChna(bed.layout)),
          chunk('axml', text.encode(encodeAxml(bed.layout, bed.name, bed.seconds, bed.sampleRate))),
        ]
      : []),
    ...(objects
      ? [
          chunk('chna', encodeObjectsChna(objects.objects.length)),
          chunk(
            'axml',
            text.encode(encodeObjectsAxml(objects.objects, objects.name, objects.seconds, objects.sampleRate)),
          ),
        ]
      : []),
  ]);
}

/**
 * The first DATA_OFFSET bytes of a Broadcast WAV (EBU Tech 3285). Beyond 4 GB it is RF64 (EBU Tech
 * 3306): the reserved JUNK chunk becomes ds64. The rest up to the samples is filled with JUNK.
 * Throws RangeError when names and notes do not fit.
 */
export function wavHeader(spec: WavSpec): Uint8Array {
  const bytes = new Uint8Array(DATA_OFFSET);
  const view = new DataView(bytes.buffer);
  let at = 0;
  const text = (s: string) => {
    for (let i = 0; i < s.length; i++) bytes[at++] = s.charCodeAt(i);
  };
  const u16 = (v: number) => (view.setUint16(at, v, true), (at += 2));
  const u32 = (v: number) => (view.setUint32(at, v, true), (at += 4));
  const u64 = (v: number) => (u32(v % 2 ** 32), u32(Math.floor(v / 2 ** 32)));
  const chunk = (id: string, content: Uint8Array) => {
    if (at + 8 + content.length + 24 > DATA_OFFSET)
      throw new RangeError(`the notes in the file header are too long (${content.length} bytes)`);
    text(id);
    u32(content.length);
    bytes.set(content, at);
    at += content.length + (content.length & 1);
  };

  const block = spec.channels * bytesPerSample(spec.format);
  const dataBytes = spec.frames * block;
  const riffBytes = DATA_OFFSET - 8 + dataBytes + (spec.trailerBytes ?? dataBytes & 1);
  const long = spec.bw64 || riffBytes > UINT32_MAX;

  text(spec.bw64 ? 'BW64' : long ? 'RF64' : 'RIFF');
  u32(long ? UINT32_MAX : riffBytes);
  text('WAVE');
  text(long ? 'ds64' : 'JUNK');
  u32(28);
  if (long) {
    u64(riffBytes);
    u64(dataBytes);
    u64(spec.frames);
    u32(0);
  } else {
    at += 28;
  }

  const extensible = spec.channels > 2;
  text('fmt ');
  u32(extensible ? 40 : 16);
  const tag = isFloat(spec.format) ? 3 : 1;
  u16(extensible ? 0xfffe : tag);
  u16(spec.channels);
  u32(spec.sampleRate);
  u32(spec.sampleRate * block);
  u16(block);
  u16(bitsOf(spec.format));
  if (extensible) {
    u16(22);
    u16(bitsOf(spec.format));
    u32(spec.mask);
    u16(tag);
    for (const b of GUID_TAIL) bytes[at++] = b;
  }
  if (spec.bext) chunk('bext', encodeBext(spec.bext));
  if (spec.ixml) chunk('iXML', new TextEncoder().encode(spec.ixml));

  text('JUNK');
  u32(DATA_OFFSET - 8 - at - 4);
  at = DATA_OFFSET - 8;
  text('data');
  u32(long ? UINT32_MAX : dataBytes);
  return bytes;
}
