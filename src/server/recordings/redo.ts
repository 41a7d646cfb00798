import { open, unlink } from 'node:fs/promises';
import { basename } from 'node:path';
import { nanoid } from 'nanoid';
import { Redo } from '@/core/engine';
import { bytesPerSample, DATA_OFFSET, FrameCodec, formatOfWord } from '@/core/files';
import { channelNames, safeName, sessionFileHeader } from '@/core/print';
import { trackOf } from '@/core/session';
import { makeSessionDir, mediaPath } from '../config';
import { Refused } from '../http';
import { newKernels } from '../kernels';
import { addMedia, mediaHere, mediaRow, openAudio, openFile, settle, toRef, writeAll } from '../media';
import { loadSession, serverEdit } from '../sessions';

const MOST = 1024;

/**
 * Makes a new take from the untouched copy of an old one, through the chains its lines have today. It stands at the
 * same sample and is as long; the old take stays as it is.
 */
export async function redoTake(session: string, takeId: string): Promise<{ take: number }> {
  const { doc } = await loadSession(session);
  const track = doc.tracks.find((t) => t.takes.some((k) => k.id === takeId));
  const old = track?.takes.find((k) => k.id === takeId);
  if (!track || !old) throw new Refused(404, 'This take is not in the session any more.');
  if (!old.dryMedia)
    throw new Refused(
      422,
      `Take ${old.number} has no untouched copy, so its chain cannot be redone. It stays as it is.`,
    );
  const chains = track.inputs.map((id) => doc.lines.find((l) => l.id === id)?.chain);
  if (chains.some((c) => c === undefined))
    throw new Refused(
      422,
      `${trackOf(doc, track.id).name} is not patched to its lines any more; patch it, so that it is clear through which chain the take should go.`,
    );
  const number = 1 + Math.max(...track.takes.map((t) => t.number));
  const id = nanoid(12).replace(/^-/, 'r');
  const file = `${safeName(doc.code)}_${safeName(track.name)}_redo-${id.slice(0, 4)}_T${String(number).padStart(2, '0')}.wav`;
  const path = mediaPath(session, file);
  const k = newKernels();
  const dry = await mediaRow(old.dryMedia);
  const source = await openFile(await mediaHere(dry));
  makeSessionDir(session);
  const handle = await open(path, 'wx');
  try {
    const stream = await openAudio(k, source);
    const format = formatOfWord(doc.format.wordLength);
    const codec = new FrameCodec(k, format, stream.channels, MOST);
    const block = stream.channels * bytesPerSample(format);
    const table = k.x.alloc(stream.channels * 4);
    let frames = 0;
    const redo = new Redo(
      k,
      doc.format.sampleRate,
      chains as NonNullable<(typeof chains)[0]>[],
      async (set, from, n) => {
        for (let c = 0; c < set.channels; c++) k.heapU32[(table >> 2) + c] = set.at(c) + from * 4;
        const { bytes } = codec.encode(table, n);
        await writeAll(handle, bytes, DATA_OFFSET + frames * block);
        frames += n;
      },
    );
    for await (const { set, frames: n } of stream.blocks()) await redo.run(set.table, n);
    await redo.finish();
    const made = new Date().toISOString();
    const header = sessionFileHeader(doc, {
      description: `${track.name}, take ${number}`,
      layout: track.layout,
      start: old.start,
      frames,
      take: String(number),
      note: `Take ${old.number} through today's chain`,
      made,
    });
    await writeAll(handle, header, 0);
    await handle.sync();
    const done = await settle(doc, path, channelNames(track.layout));
    const row = {
      id: `${id}-processed`,
      session,
      file: basename(done),
      kind: 'take' as const,
      channels: stream.channels,
      frames,
      sampleRate: doc.format.sampleRate,
    };
    await addMedia(row);
    await serverEdit(session, {
      type: 'addTake',
      id,
      track: track.id,
      start: old.start,
      media: toRef(row),
      dry: toRef(dry),
      chains: chains as NonNullable<(typeof chains)[0]>[],
      recordedAt: made,
      recovered: false,
    });
    return { take: number };
  } catch (error) {
    await unlink(path).catch(() => {});
    throw error;
  } finally {
    await handle.close();
    await source.close();
  }
}
