import { placeAt } from '@/core/checks';
import { AudioWriter, formatOfWord } from '@/core/files';
import type { ChannelSet, Kernels } from '@/core/kernels';
import { frozenSpan, PRINT_SPAN, renderNode, sessionFileHeader } from '@/core/print';
import { nodeOf, type SessionDoc } from '@/core/session';
import { layoutOf } from '@/core/speakers';
import { Refused } from '../http';
import { FileSink } from './fileSink';
import { removeFile } from './layOut';
import { WavReader } from './wavReader';

/** What a thread is given to freeze a track or bus. */
export interface FreezeTask {
  task: 'freeze';
  doc: SessionDoc;
  node: string;
  /** Paths of the session's files by media. */
  media: Record<string, string>;
  to: string;
  /** ISO time. */
  made: string;
}

/** Samples beyond full scale behind a chain are kept: the file holds 32-bit floats whatever the session's bits. */
const WORD = 32;

/** Writes a track's or bus's sound behind its chain into a new file. Nothing stays when it fails. */
export async function freezeToFile(
  k: Kernels,
  job: FreezeTask,
  onShare: (share: number) => void,
): Promise<{ frames: number }> {
  const { doc, node: id, media, to, made } = job;
  const node = nodeOf(doc, id);
  const reader = new WavReader(
    k,
    (m) => media[m] ?? Promise.reject(new Error('it is missing')),
    PRINT_SPAN,
    (m, from, why) => {
      throw new Refused(
        422,
        `${doc.media[m]?.name ?? m} could not be read (${why}): ${placeAt(doc, m, from)} would be silent. ${node.name} stays as it is.`,
      );
    },
  );
  const sink = await FileSink.create(to);
  try {
    const layout = layoutOf(node.layout);
    const spec = { kind: 'wav' as const, format: formatOfWord(WORD), channels: layout.speakers.length };
    const writer = new AudioWriter(
      k,
      sink,
      { ...spec, mask: layout.mask, sampleRate: doc.format.sampleRate },
      PRINT_SPAN,
    );
    const table = k.x.alloc(spec.channels * 4);
    const take = async (set: ChannelSet, from: number, n: number) => {
      for (let c = 0; c < set.channels; c++) k.heapU32[(table >> 2) + c] = set.at(c) + from * 4;
      await writer.write(table, n);
    };
    await renderNode(k, doc, id, reader.read, take, onShare);
    const { frames } = await writer.finish();
    const description = `${node.name}, frozen`;
    const { start } = frozenSpan(doc, id);
    await sink.put(
      0,
      sessionFileHeader(doc, { description, layout: node.layout, wordLength: WORD, start, frames, made }),
    );
    await sink.sync();
    await sink.close();
    return { frames };
  } catch (error) {
    await sink.close().catch(() => {});
    await removeFile(to);
    throw error;
  } finally {
    await reader.close();
  }
}
