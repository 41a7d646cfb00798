import { newKernels } from '../kernels';
import { Refused } from '../http';
import { shared } from '../shared';
import { pathOfMedia } from './store';
import { WavReader } from './wavReader';

export interface BlockItem {
  media: string;
  from: number;
  frames: number;
}

/** Most frames that one item may ask for. */
export const MOST_FRAMES = 96_000;

const reader = () =>
  shared('block-reader', () => {
    const files = new Map<string, string>();
    const known = async (media: string) => {
      const path = files.get(media) ?? (await pathOfMedia(media));
      files.set(media, path);
      return path;
    };
    const queue: Promise<unknown> = Promise.resolve();
    return { k: newKernels(), known, queue };
  });

/**
 * The samples of many pieces of files in one answer: for each item its channels one after another, f32,
 * as long as asked (silence beyond the end of a file).
 */
export function readBlocks(
  items: readonly BlockItem[],
  channelsOf: (media: string) => number,
): Promise<Uint8Array<ArrayBuffer>> {
  const shape = items.map((i) => ({ ...i, channels: channelsOf(i.media) }));
  const total = shape.reduce((n, i) => n + i.channels * i.frames, 0);
  if (total > 64 * MOST_FRAMES || shape.some((i) => i.frames > MOST_FRAMES || i.frames < 1 || i.from < 0)) {
    throw new Refused(422, `One request may ask for at most ${MOST_FRAMES} frames a piece.`);
  }
  const r = reader();
  // One request after the other: they share the kernels' memory.
  const turn = r.queue
    .catch(() => {})
    .then(async () => {
      const files = new WavReader(r.k, r.known, Math.max(1, ...shape.map((i) => i.frames)));
      try {
        const out = new Float32Array(total);
        let at = 0;
        for (const item of shape) {
          await files.read(item.media, item.from, item.frames, (planar) => {
            for (let c = 0; c < item.channels; c++) if (planar[c]) out.set(planar[c]!, at + c * item.frames);
          });
          at += item.channels * item.frames;
        }
        return new Uint8Array(out.buffer);
      } finally {
        await files.close();
      }
    });
  r.queue = turn;
  return turn;
}
