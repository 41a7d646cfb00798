import { ChannelSet } from '@/core/kernels';
import { safeName } from '@/core/print';
import { JOINT_SECONDS, loopCut, quietPlaces, type QuietPlace } from '@/core/roomTone';
import type { MediaRef, SessionDoc } from '@/core/session';
import { Refused } from '../http';
import { newKernels } from '../kernels';
import { openFile } from './fileSource';
import { openAudio } from './openAudio';
import { makeMedia } from './sessionFile';
import { mediaHere, mediaRow } from './store';

/** Longest recording that is searched for room tone (s). */
const MOST_SECONDS = 600;

export interface ToneAsked {
  media: string;
  /** Samples of the file that may be used. */
  from: number;
  to: number;
  /** Samples of the room tone. */
  length: number;
}

async function samples(session: string, doc: SessionDoc, asked: ToneAsked): Promise<Float32Array[]> {
  const row = await mediaRow(asked.media);
  if (row.session !== session || !doc.media[asked.media])
    throw new Refused(404, 'That file does not belong to this session.');
  const rate = doc.format.sampleRate;
  const from = Math.max(0, asked.from);
  const to = Math.min(row.frames, asked.to, from + MOST_SECONDS * rate);
  if (!(asked.length >= rate / 20) || !Number.isSafeInteger(asked.length))
    throw new Refused(422, 'A room tone lasts at least a twentieth of a second; nothing was cut.');
  const need = asked.length + Math.round(JOINT_SECONDS * rate);
  if (to - from < need)
    throw new Refused(
      422,
      `The stretch lasts ${((to - from) / rate).toFixed(2)} s; ${(need / rate).toFixed(2)} s are needed for ${(asked.length / rate).toFixed(2)} s and their joint. Nothing was cut.`,
    );
  const source = await openFile(await mediaHere(row));
  try {
    const stream = await openAudio(newKernels(), source);
    const out = Array.from({ length: stream.channels }, () => new Float32Array(to - from));
    let at = 0;
    for await (const { set, frames } of stream.blocks()) {
      const [a, b] = [Math.max(from, at), Math.min(to, at + frames)];
      if (b > a) out.forEach((o, c) => o.set(set.view(c).subarray(a - at, b - at), a - from));
      at += frames;
      if (at >= to) break;
    }
    return out;
  } finally {
    await source.close();
  }
}

/** Quiet stretches of a file, counted from its first sample. */
export async function findTone(session: string, doc: SessionDoc, asked: ToneAsked): Promise<QuietPlace[]> {
  const rate = doc.format.sampleRate;
  const channels = await samples(session, doc, asked);
  const from = Math.max(0, asked.from);
  return quietPlaces(channels, rate, asked.length, Math.round(JOINT_SECONDS * rate)).map((p) => ({
    ...p,
    start: p.start + from,
  }));
}

/** Cuts a loop from `start` of a file into a file of its own. */
export async function cutTone(
  session: string,
  doc: SessionDoc,
  asked: ToneAsked & { start: number; name: string },
): Promise<MediaRef> {
  const rate = doc.format.sampleRate;
  const joint = Math.round(JOINT_SECONDS * rate);
  const from = asked.start - joint;
  const channels = await samples(session, doc, { ...asked, from, to: asked.start + asked.length });
  const cut = loopCut(channels, rate, joint, asked.length);
  const k = newKernels();
  const set = new ChannelSet(k, cut.length, asked.length);
  cut.forEach((c, i) => set.view(i).set(c));
  const made = {
    session,
    doc,
    stem: `${safeName(doc.code)}_${safeName(asked.name)}_${(asked.length / rate).toFixed(2)}s`,
    channels: cut.map((_, c) => String(c + 1)),
    mostFrames: asked.length,
  };
  return makeMedia(k, made, (writer) => writer.write(set.table, asked.length));
}
