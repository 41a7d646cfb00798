import {
  type AdmObject,
  bytesPerSample,
  encodeIxml,
  formatOfWord,
  wavHeader,
  wavTrailer,
  bitsOf,
  type SampleFormat,
} from '@/core/files';
import { layoutIn, layoutOf, widthOf, type ChannelOrder } from '@/core/speakers';
import { frameRate, frameToSample, timecodeToFrames } from '@/core/units';
import type { Measured } from '@/core/measure';
import type { SessionDoc, WordLength } from '@/core/session';
import type { LayoutId } from '@/core/speakers';

/** Samples since midnight of a timeline position, at a rate (Hz). */
export function timeReference(doc: SessionDoc, sample: number, sampleRate = doc.format.sampleRate): number {
  const rate = frameRate(doc.format.frameRate);
  const at = frameToSample(timecodeToFrames(doc.format.startTimecode, rate), rate, doc.format.sampleRate) + sample;
  return Math.round((at * sampleRate) / doc.format.sampleRate);
}

export interface NewFile {
  description: string;
  layout: LayoutId;
  /** Order of its channels, unless as masks count. */
  order?: ChannelOrder;
  /** Bits where they differ from the session's. */
  wordLength?: WordLength;
  /** Hz where it differs from the session's. */
  sampleRate?: number;
  /** A BW64 that says what its channels are (see sessionFileTrailer). */
  adm?: 'bed' | { objects: readonly AdmObject[] } | null;
  /** Timeline position of the first sample. */
  start: number;
  frames: number;
  /** Scene or cue; the description unless given. */
  scene?: string;
  take?: string;
  note?: string;
  trackNames?: readonly string[];
  measured?: Measured;
  /** ISO time it was made. */
  made: string;
}

const channelsOf = ({ layout, adm }: NewFile): number =>
  typeof adm === 'object' && adm ? adm.objects.length : widthOf(layout);

/** What stands behind the samples of a BW64, with the pad byte that they may need; null for any other file. */
export function sessionFileTrailer(doc: SessionDoc, file: NewFile): Uint8Array | null {
  if (!file.adm) return null;
  const { sampleRate = doc.format.sampleRate } = file;
  const format = formatOfWord(file.wordLength ?? doc.format.wordLength);
  const told = { name: file.description, seconds: file.frames / sampleRate, sampleRate };
  return wavTrailer(
    file.adm === 'bed'
      ? { bed: { layout: layoutOf(file.layout), ...told } }
      : { objects: { objects: file.adm.objects, ...told } },
    file.frames * channelsOf(file) * bytesPerSample(format),
  );
}

/** Header of a Broadcast WAV in the session's format, with time reference, names and loudness inside. */
export function sessionFileHeader(doc: SessionDoc, file: NewFile): Uint8Array {
  const format: SampleFormat = formatOfWord(file.wordLength ?? doc.format.wordLength);
  const layout = layoutIn(layoutOf(file.layout), file.order ?? 'wav');
  const rate = frameRate(doc.format.frameRate);
  const { sampleRate = doc.format.sampleRate } = file;
  const reference = timeReference(doc, file.start, sampleRate);
  const m = file.measured;
  const trailer = sessionFileTrailer(doc, file);
  return wavHeader({
    ...(trailer ? { bw64: true, trailerBytes: trailer.length } : {}),
    format,
    channels: channelsOf(file),
    sampleRate,
    frames: file.frames,
    mask: typeof file.adm === 'object' && file.adm ? 0 : layout.mask,
    bext: {
      description: file.description,
      originator: 'Wide Room',
      originatorReference: '',
      date: file.made.slice(0, 10),
      time: file.made.slice(11, 19),
      timeReference: reference,
      codingHistory: `A=PCM,F=${sampleRate},W=${bitsOf(format)},T=Wide Room\r\n`,
      ...(m
        ? {
            loudness: {
              integrated: m.integrated,
              range: m.range,
              maxTruePeak: m.truePeak,
              maxMomentary: m.maxMomentary,
              maxShortTerm: m.maxShortTerm,
            },
          }
        : {}),
    },
    ixml: encodeIxml({
      project: doc.name,
      scene: file.scene ?? file.description,
      take: file.take,
      note: file.note,
      timecodeRate: `${rate.num}/${rate.den}`,
      drop: rate.drop,
      sampleRate,
      bits: bitsOf(format),
      timeReference: reference,
      tracks: file.trackNames ?? layout.speakers.map((s) => s.label),
    }),
  });
}
