import { STREAM_SPAN } from '@/core/files';
import { ChannelSet } from '@/core/kernels';
import { channelNames, safeName } from '@/core/print';
import { EditRefused, type MediaRef, type SessionDoc } from '@/core/session';
import { newKernels } from '../kernels';
import { openFile } from './fileSource';
import { openAudio } from './openAudio';
import { makeMedia } from './sessionFile';
import { pathOfMedia } from './store';

/**
 * Writes what a clip shows of its file into a file of its own, `frames` long to the sample: silence follows where the
 * old file has no more sound. Gain and fades stay with the clip.
 */
export async function ownFile(session: string, doc: SessionDoc, clipId: string, frames: number): Promise<MediaRef> {
  const track = doc.tracks.find((t) => t.clips.some((c) => c.id === clipId));
  const clip = track?.clips.find((c) => c.id === clipId);
  if (!track || !clip) throw new EditRefused('That clip is not in the session any more; no file was made.');
  const k = newKernels();
  const source = await openFile(await pathOfMedia(clip.media));
  try {
    const stream = await openAudio(k, source);
    const part = new ChannelSet(k, stream.channels, STREAM_SPAN);
    const named = channelNames(track.layout);
    const made = {
      session,
      doc,
      stem: `${safeName(doc.code)}_${safeName(clip.name.replace(/\.\w{3,4}$/, ''))}`,
      channels: Array.from({ length: stream.channels }, (_, c) => named[c] ?? String(c + 1)),
      mostFrames: STREAM_SPAN,
    };
    return await makeMedia(k, made, async (writer) => {
      let at = 0;
      let left = frames;
      for await (const { set, frames: n } of stream.blocks()) {
        const first = Math.max(0, clip.offset - at);
        const taken = Math.min(n - first, left);
        if (taken > 0) {
          for (let c = 0; c < stream.channels; c++) part.view(c).set(set.view(c).subarray(first, first + taken));
          await writer.write(part.table, taken);
          left -= taken;
        }
        at += n;
        if (left === 0) return;
      }
      part.clear(STREAM_SPAN);
      for (; left > 0; left -= Math.min(left, STREAM_SPAN)) await writer.write(part.table, Math.min(left, STREAM_SPAN));
    });
  } finally {
    await source.close();
  }
}
