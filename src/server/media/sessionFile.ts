import path from 'node:path';
import { nanoid } from 'nanoid';
import { AudioWriter, formatOfWord } from '@/core/files';
import type { Kernels } from '@/core/kernels';
import type { MediaRef, SessionDoc } from '@/core/session';
import { makeSessionDir, mediaPath } from '../config';
import { FileSink } from './fileSink';
import { settle } from './inForm';
import { removeFile } from './layOut';
import { addMedia, toRef } from './store';

interface NewMedia {
  session: string;
  doc: SessionDoc;
  /** Without ending; it gets one that no other file has. */
  stem: string;
  /** Names of the channels, for files of one channel each. */
  channels: readonly string[];
  /** Most frames that are written at a time. */
  mostFrames: number;
}

/** Makes a file of a session in its format and form; `write` puts the samples in. Nothing stays when it fails. */
export async function makeMedia(
  k: Kernels,
  { session, doc, stem, channels, mostFrames }: NewMedia,
  write: (writer: AudioWriter) => Promise<void>,
): Promise<MediaRef> {
  const file = mediaPath(session, `${stem}_${nanoid(4)}.wav`);
  const { sampleRate, wordLength } = doc.format;
  makeSessionDir(session);
  const sink = await FileSink.create(file);
  try {
    const spec = {
      kind: 'wav' as const,
      format: formatOfWord(wordLength),
      channels: channels.length,
      mask: 0,
      sampleRate,
    };
    const writer = new AudioWriter(k, sink, spec, mostFrames);
    await write(writer);
    const { frames } = await writer.finish();
    await sink.close();
    const row = {
      id: nanoid(12),
      session,
      file: path.basename(await settle(doc, file, channels)),
      kind: 'file' as const,
      channels: channels.length,
      frames,
      sampleRate,
    };
    await addMedia(row);
    return toRef(row);
  } catch (error) {
    await sink.close().catch(() => {});
    await removeFile(file);
    throw error;
  }
}
