// Channel orders with recordings that say which speaker they are (alsa-utils), each in its channel, against sox.
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CHANNEL_ORDERS, labelsIn, layoutOf, reorder, reordering, type ChannelOrder } from '@/core/speakers';
import { newKernels } from '../support/kernels';
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
