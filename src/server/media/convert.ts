import { unlink } from 'node:fs/promises';
import {
  type AudioStream,
  AudioWriter,
  type Bext,
  bitsOf,
  convertible,
  isFloat,
  Resampler,
  STREAM_SPAN,
  type ByteSource,
  type SampleFormat,
} from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { Refused } from '../http';
import { FileSink } from './fileSink';
import { FlacWriter } from './flac';
import { openAudio } from './openAudio';

export interface ConvertTo {
  kind: 'wav' | 'aiff' | 'flac';
  sampleRate: number;
  format: SampleFormat;
  /** Triangular noise before rounding; unless told, wherever 16 bits or fewer hold less than there was. */
  dither?: boolean;
}

/** Whether the new file holds less than the old one gives: fewer bits, or 16 after arithmetic. */
function losesBits(from: AudioStream, to: ConvertTo): boolean {
  const bits = to.kind === 'flac' ? (bitsOf(to.format) <= 16 ? 16 : 24) : bitsOf(to.format);
  if (isFloat(to.format) && to.kind !== 'flac') return false;
  return bits <= 16 && (isFloat(from.format) || bitsOf(from.format) > bits || from.sampleRate !== to.sampleRate);
}

/** The Broadcast extension as it goes along: at the new rate, with a line of history for this step (EBU R 98). */
function carried(from: AudioStream, to: ConvertTo, scale: number, dither: boolean): Bext | undefined {
  if (!from.bext) return undefined;
  const before = from.bext.codingHistory.replace(/\0+$/, '').trimEnd();
  const line = `A=PCM,F=${to.sampleRate},W=${bitsOf(to.format)},T=Wide Room conversion${dither ? ' with dither' : ''}`;
  return {
    ...from.bext,
    timeReference: Math.round(from.bext.timeReference * scale),
    codingHistory: `${before ? `${before}\r\n` : ''}${line}\r\n`,
  };
}

/** Samples that a block may become, of all channels (32 MB): many channels at a low rate would take all memory. */
const MOST_SAMPLES = 8 << 20;

/** Frames that are converted at a time, where each becomes `scale` in `channels` channels. */
const spanFor = (channels: number, scale: number): number =>
  Math.max(64, Math.min(STREAM_SPAN, Math.floor(MOST_SAMPLES / (2 * channels * Math.max(1, scale)))));

interface Writer {
  write(table: number, n: number): Promise<void>;
  finish(): Promise<{ frames: number; overs: number }>;
}

/** `most`: frames that are written at once. */
async function writerFor(k: Kernels, sink: FileSink, from: AudioStream, to: ConvertTo, most: number): Promise<Writer> {
  const { channels, info } = from;
  const dither = to.dither ?? losesBits(from, to);
  const { sampleRate } = to;
  // 8 bit is unsigned in a WAV, signed in an AIFF.
  const format: SampleFormat = to.format === 8 || to.format === 9 ? (to.kind === 'wav' ? 8 : 9) : to.format;
  const scale = sampleRate / from.sampleRate;
  const markers = (info?.markers ?? []).map((m) => ({ ...m, at: Math.round(m.at * scale) }));
  const bext = carried(from, to, scale, dither);
  if (to.kind === 'flac')
    return FlacWriter.create(k, sink, {
      channels,
      sampleRate,
      bits: bitsOf(format) <= 16 ? 16 : 24,
      dither,
      ...(bext ? { bext } : {}),
    });
  if (to.kind === 'aiff')
    return new AudioWriter(k, sink, { kind: 'aiff', format, channels, sampleRate, markers }, most, dither);
  const spec = {
    kind: 'wav' as const,
    format,
    channels,
    sampleRate,
    mask: from.mask,
    markers,
    ...(bext ? { bext } : {}),
  };
  return new AudioWriter(k, sink, spec, most, dither);
}

/**
 * Writes a sound file as another kind, at another rate or word length, in one pass. What it says about itself
 * (time reference, markers, channel mask) goes along where the new kind has a place for it. A file that cannot
 * be finished is taken away again.
 */
export async function convertAudio(
  k: Kernels,
  source: ByteSource,
  path: string,
  to: ConvertTo,
): Promise<{ frames: number; overs: number; from: AudioStream }> {
  const from = await openAudio(k, source);
  if (!convertible(from.sampleRate, to.sampleRate))
    throw new Refused(422, `There is no conversion from ${from.sampleRate} to ${to.sampleRate} Hz.`);
  const sink = await FileSink.create(path);
  try {
    const span = spanFor(from.channels, to.sampleRate / from.sampleRate);
    const rates =
      from.sampleRate === to.sampleRate ? null : new Resampler(k, from.sampleRate, to.sampleRate, from.channels, span);
    const writer = await writerFor(k, sink, from, to, rates?.mostOut ?? span);
    for await (const { set, frames } of from.blocks(span)) {
      if (!rates) await writer.write(set.table, frames);
      else {
        const n = rates.run(set.table, frames);
        if (n > 0) await writer.write(rates.output.table, n);
      }
    }
    const rest = rates?.finish() ?? 0;
    if (rest > 0) await writer.write(rates!.output.table, rest);
    rates?.free();
    const done = await writer.finish();
    await sink.close();
    return { ...done, from };
  } catch (error) {
    await sink.close().catch(() => {});
    await unlink(path).catch(() => {});
    throw error;
  }
}

/** The word length a converted file needs so that nothing is lost: a new rate makes more than 16 bits. */
export const formatKept = (from: SampleFormat, rateChanges: boolean): SampleFormat =>
  isFloat(from) ? 132 : from === 32 ? 132 : from === 24 || rateChanges ? 24 : 16;
