import { unlink } from 'node:fs/promises';
import { AudioWriter, encodeIxml, STREAM_SPAN, type AudioInfo, type FileMarker } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import { FRAME_RATES, sampleToTimecode } from '@/core/units';
import { FileSink } from './fileSink';
import { diskPaths, openFile } from './fileSource';
import { openAudio } from './openAudio';

/** Writes one WAV as `to` says: as AIFF by its ending, as one file a channel by its braces (see partNames). */
export async function layOut(k: Kernels, from: string, to: string): Promise<{ frames: number }> {
  const source = await openFile(from);
  const paths = diskPaths(to);
  const sinks: FileSink[] = [];
  try {
    const stream = await openAudio(k, source);
    const each = stream.channels / paths.length;
    for (const file of paths) sinks.push(await FileSink.create(file));
    const writers = sinks.map((sink, i) => {
      const common = { format: stream.format, channels: each, sampleRate: stream.sampleRate };
      const spec = to.endsWith('.aif')
        ? { kind: 'aiff' as const, ...common, markers: [...startMarker(stream.info), ...(stream.info?.markers ?? [])] }
        : { kind: 'wav' as const, ...common, mask: stream.mask, ...about(stream.info, i, paths.length) };
      return new AudioWriter(k, sink, spec, STREAM_SPAN);
    });
    for await (const { set, frames } of stream.blocks())
      for (const [i, writer] of writers.entries())
        await writer.write(set.table + i * each * Uint32Array.BYTES_PER_ELEMENT, frames);
    for (const writer of writers) await writer.finish();
    for (const sink of sinks) await sink.close();
    return { frames: stream.frames };
  } catch (error) {
    await Promise.all(sinks.map((s) => s.close().catch(() => {})));
    // Only what was made here: a file that stood there already is why it was refused.
    await Promise.all(paths.slice(0, sinks.length).map((p) => unlink(p).catch(() => {})));
    throw error;
  } finally {
    await source.close();
  }
}

// An AIFF has no field for the start; a marker at its first sample says it to whoever reads it.
function startMarker(info: AudioInfo | null): FileMarker[] {
  const { bext, ixml, sampleRate } = info ?? {};
  const rate = FRAME_RATES.find((r) => `${r.num}/${r.den}` === ixml?.timecodeRate && r.drop === ixml.drop);
  return bext && rate
    ? [{ at: 0, label: `starts at ${sampleToTimecode(bext.timeReference, 0, rate, sampleRate!)}` }]
    : [];
}

/** What the whole file says of itself, with the one channel's name where it is split. */
function about(info: AudioInfo | null, channel: number, of: number) {
  const { bext, ixml, markers } = info ?? { bext: null, ixml: null, markers: [] };
  const names = ixml && of > 1 ? { ...ixml, tracks: ixml.tracks.slice(channel, channel + 1) } : ixml;
  return { markers, ...(bext ? { bext } : {}), ...(names ? { ixml: encodeIxml(names) } : {}) };
}

export const removeFile = (file: string): Promise<unknown> =>
  Promise.all(diskPaths(file).map((p) => unlink(p).catch(() => {})));
