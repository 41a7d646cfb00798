// Channel orders with recordings that say which speaker they are (alsa-utils), each in its channel, against sox.
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CHANNEL_ORDERS, labelsIn, layoutOf, reorder, reordering, type ChannelOrder } from '@/core/speakers';
import { newKernels } from '../support/kernels';
import { printed, readerOf } from '../support/printed';
import { applied, sessionWith } from '../support/session';
import { firstDifference } from '../support/stages';
import { folder, readWav, run, writeWav } from './tools';

const k = newKernels();
const dir = folder();
const surround = layoutOf('5.1');
const RECORDINGS: Record<string, string> = {
  L: 'Front_Left',
  R: 'Front_Right',
  C: 'Front_Center',
  LFE: 'Noise',
  Ls: 'Rear_Left',
  Rs: 'Rear_Right',
};
const spoken: Record<string, Float32Array> = {};

beforeAll(async () => {
  for (const [label, file] of Object.entries(RECORDINGS)) {
    const [x] = await readWav(k, `/usr/share/sounds/alsa/${file}.wav`);
    spoken[label] = x!.slice(0, 48_000);
  }
});
afterAll(() => void run('rm', '-rf', dir));

/** Whose recording a channel holds. */
const who = (x: Float32Array) => Object.keys(spoken).find((label) => firstDifference(x, spoken[label]!) === -1);

describe.each(CHANNEL_ORDERS.flatMap((a) => CHANNEL_ORDERS.map((b) => [a.id, b.id] as [ChannelOrder, ChannelOrder])))(
  '5.1 from %s to %s order',
  (from, to) => {
    it('every voice is where it says, and sox agrees', async () => {
      const channels = labelsIn(surround, from).map((l) => spoken[l]!);
      const by = reordering(surround, from, to);
      const moved = reorder(channels, by);
      expect(moved.map(who)).toEqual(labelsIn(surround, to));
      const [a, b] = [path.join(dir, `${from}.wav`), path.join(dir, `${from}-${to}.wav`)];
      writeWav(k, a, channels, { format: 24, mask: 0x60f });
      run('sox', a, b, 'remix', ...by.map((i) => String(i + 1)));
      const theirs = await readWav(k, b);
      theirs.forEach((x, c) => expect(firstDifference(x, moved[c]!)).toBe(-1));
    });
  },
);

describe.each(['film', 'pairs'] as const)('a print in %s order', (order) => {
  it('is the plain print with its channels moved, by sox and by ffmpeg', async () => {
    const doc = sessionWith(
      { type: 'addTrack', id: 'six', name: 'Six', layout: '5.1', destination: 'amb' },
      {
        ...{ type: 'addClip', id: 'c', track: 'six', start: 0 },
        media: { id: 'six', name: 'six.wav', channels: 6, frames: 48_000, sampleRate: 48_000, kind: 'file' },
      },
    );
    const reference = doc.deliverables.find((d) => d.bus === 'ref' && d.layout === '5.1')!.id;
    const moved = applied(doc, { type: 'setDeliverable', deliverable: reference, order });
    const six = readerOf({ six: surround.speakers.map((s) => spoken[s.label]!) });
    const file = async (d: typeof doc, name: string) => {
      const { bytes } = await printed(k, d, six, { end: 48_000 });
      const to = path.join(dir, name);
      writeFileSync(to, bytes.get(reference)!);
      return to;
    };
    const [plain, other] = [await file(doc, `plain-${order}.wav`), await file(moved, `moved-${order}.wav`)];
    const by = reordering(surround, 'wav', order);
    const ours = await readWav(k, other);
    const [sox, ffmpeg] = [path.join(dir, `sox-${order}.wav`), path.join(dir, `ffmpeg-${order}.wav`)];
    run('sox', plain, sox, 'remix', ...by.map((i) => String(i + 1)));
    // Without a layout of its own: pan moves channels by number.
    const pan = `pan=6c|${by.map((i, c) => `c${c}=c${i}`).join('|')}`;
    run('ffmpeg', '-y', '-v', 'error', '-i', plain, '-af', pan, '-c:a', 'pcm_s24le', ffmpeg);
    for (const theirs of [await readWav(k, sox), await readWav(k, ffmpeg)])
      theirs.forEach((x, c) => expect(firstDifference(x, ours[c]!), labelsIn(surround, order)[c]).toBe(-1));
  });
});
