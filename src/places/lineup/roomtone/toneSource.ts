import { ask, samplesOf } from '@/client';
import { floatWav } from '@/core/files';
import { JOINT_SECONDS, loopCut, quietPlaces, type QuietPlace } from '@/core/roomTone';
import { type Clip, type MediaRef, type SessionDoc } from '@/core/session';
import { safeName } from '@/core/print';

/** What room tone is cut from. Places are samples from its first one. */
export interface ToneSource {
  key: string;
  frames: number;
  /** Quiet stretches of a length, the best first. */
  find(length: number): Promise<QuietPlace[]>;
  /** What would be kept from a place on, for the ears. */
  piece(start: number, length: number): Promise<Float32Array[]>;
  /** Keeps it as a file of the session. */
  keep(start: number, length: number, name: string): Promise<MediaRef>;
}

const jointOf = (rate: number): number => Math.round(JOINT_SECONDS * rate);

/** The first and the last place where a piece of a length can begin: what its joint is made of must stand before it. */
export function placesOf(
  { frames }: Pick<ToneSource, 'frames'>,
  length: number,
  rate: number,
): [number, number] | null {
  const first = jointOf(rate);
  return frames - length >= first ? [first, frames - length] : null;
}

/** A clip, or the untouched copy of what it shows. */
export function clipTone(session: string, rate: number, { offset, length: frames }: Clip, media: string): ToneSource {
  const url = `/api/sessions/${session}/roomtone`;
  const asked = (length: number) => ({ media, from: offset, to: offset + frames, length });
  return {
    key: `${media} ${offset} ${frames}`,
    frames,
    find: async (length) => {
      const { places } = await ask<{ places: QuietPlace[] }>(url, asked(length));
      return places.map((p) => ({ ...p, start: p.start - offset }));
    },
    piece: async (start, length) => {
      const joint = jointOf(rate);
      return loopCut(await samplesOf(media, offset + start - joint, length + joint), rate, joint, length);
    },
    keep: (start, length, name) => ask<MediaRef>(url, { ...asked(length), start: offset + start, name }),
  };
}

/** What was just recorded of a line, before anything of it is kept. */
export function lineTone(session: string, doc: SessionDoc, samples: Float32Array, rate: number): ToneSource {
  return {
    key: `line ${samples.length}`,
    frames: samples.length,
    find: (length) => Promise.resolve(quietPlaces([samples], rate, length, jointOf(rate))),
    piece: (start, length) => Promise.resolve(loopCut([samples], rate, start, length)),
    keep: async (start, length, name) => {
      const file = `${safeName(doc.code)}_${safeName(name)}_${(length / rate).toFixed(2)}s.wav`;
      const response = await fetch(`/api/sessions/${session}/media?name=${encodeURIComponent(file)}`, {
        method: 'POST',
        body: floatWav(loopCut([samples], rate, start, length), rate),
      });
      const answer = (await response.json()) as { media?: MediaRef; message?: string };
      if (!response.ok || !answer.media)
        throw new Error(answer.message ?? 'The sound runs at another rate than the session; nothing was kept.');
      return answer.media;
    },
  };
}
